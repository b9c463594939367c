import { handle } from '@/server/http/handle';
import { readRunSamples } from '@/server/services/runs';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string; run: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id, run } = await params;
  return handle(() => readRunSamples(id, run));
}
