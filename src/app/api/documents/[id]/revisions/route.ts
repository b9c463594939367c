import { saveRevisionSchema } from '@/contract';
import { succeed } from '@/core/kit';
import { handle, handleBody } from '@/server/http/handle';
import { listRevisions } from '@/server/services/history';
import { saveRevision } from '@/server/services/revisions';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const before = Number(new URL(request.url).searchParams.get('before') ?? NaN);
  return handle(async () => succeed(await listRevisions(id, Number.isInteger(before) ? before : undefined)));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, saveRevisionSchema, (body) => saveRevision(id, body));
}
