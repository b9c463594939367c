import { keepSizeChecksSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { keepSizeChecks, readSizeChecks } from '@/server/services/size-checks';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(() => readSizeChecks(id));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, keepSizeChecksSchema, ({ checked }) => keepSizeChecks(id, checked));
}
