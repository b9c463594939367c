import { succeed } from '@/core/kit';
import { builtStore } from '@/server/geometry-workers';
import { handle } from '@/server/http/handle';
import { tellAnswer } from '@/server/services/built-answers';

export const dynamic = 'force-dynamic';

export async function GET(request: Request, { params }: { params: Promise<{ kind: string; key: string }> }): Promise<Response> {
  const { kind, key } = await params;
  const program = new URL(request.url).searchParams.get('program') ?? '';
  return handle(async () => succeed(await tellAnswer(builtStore(), kind, key, program)));
}
