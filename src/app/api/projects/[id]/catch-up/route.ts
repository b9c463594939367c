import { catchUpSchema } from '@/contract';
import { succeed } from '@/core/kit';
import { handle, handleBody } from '@/server/http/handle';
import { commitCatchUp } from '@/server/services/catch-up';
import { previewCatchUp } from '@/server/services/catch-up-preview';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

/**
 * The preview; `?document=` limits it to one document, with `branch=1` to that and all that takes from it. With
 * `measured=1` the geometry is built where values are measured on it.
 */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const wanted = new URL(request.url).searchParams;
  const preview = { document: wanted.get('document') ?? undefined, isBranch: wanted.get('branch') === '1', isMeasured: wanted.get('measured') === '1' };
  return handle(async () => succeed(await previewCatchUp(id, preview)));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, catchUpSchema, (body) => commitCatchUp(id, body));
}
