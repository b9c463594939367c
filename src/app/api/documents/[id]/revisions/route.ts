import { saveRevisionSchema } from '@/contract';
import { succeed } from '@/core/kit';
import { handle, handleBody } from '@/server/http/handle';
import { listRevisions, saveRevision } from '@/server/services/revisions';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(async () => succeed({ revisions: await listRevisions(id) }));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, saveRevisionSchema, (body) => saveRevision(id, body));
}
