import { changeRunsSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { changeRuns, readRuns } from '@/server/services/runs';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(() => readRuns(id));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, changeRunsSchema, (change) => changeRuns(id, change));
}
