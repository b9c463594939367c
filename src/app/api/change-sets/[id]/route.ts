import { undoChangeSetSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { readChangeSet, undoChangeSet } from '@/server/services/change-sets';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

/** What it changed. */
export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(() => readChangeSet(id));
}

/** Takes it back with a new change set. */
export async function DELETE(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, undoChangeSetSchema, ({ author }) => undoChangeSet(id, author));
}
