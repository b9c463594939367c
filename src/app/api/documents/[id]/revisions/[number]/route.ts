import { nameRevisionSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { nameRevision, readRevision } from '@/server/services/history';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string; number: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id, number } = await params;
  return handle(() => readRevision(id, toNumber(number)));
}

export async function PATCH(request: Request, { params }: Context): Promise<Response> {
  const { id, number } = await params;
  return handleBody(request, nameRevisionSchema, ({ message }) => nameRevision(id, toNumber(number), message));
}

/** A revision number of a path; 0, which no revision has, for anything else. */
function toNumber(text: string): number {
  return /^\d{1,9}$/.test(text) ? Number(text) : 0;
}
