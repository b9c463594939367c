import { postEditsSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { postEdits, readEditsAfter } from '@/server/services/documents';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

/** Edits after `?after=`. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const after = Number(new URL(request.url).searchParams.get('after') ?? '0');
  return handle(() => readEditsAfter(id, Number.isInteger(after) && after >= 0 ? after : 0));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, postEditsSchema, (body) => postEdits(id, body));
}
