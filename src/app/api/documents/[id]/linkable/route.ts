import { handle } from '@/server/http/handle';
import { listLinkable } from '@/server/services/linkable';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => listLinkable(id));
}
