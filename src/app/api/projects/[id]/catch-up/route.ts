import { catchUpSchema } from '@/contract';
import { succeed } from '@/core/kit';
import { handle, handleBody } from '@/server/http/handle';
import { commitCatchUp, previewCatchUp } from '@/server/services/catch-up';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

/** The preview; `?document=` limits it to one document. */
export async function GET(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  const document = new URL(request.url).searchParams.get('document') ?? undefined;
  return handle(async () => succeed(await previewCatchUp(id, document)));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, catchUpSchema, (body) => commitCatchUp(id, body));
}
