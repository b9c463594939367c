import { handle } from '@/server/http/handle';
import { readReach } from '@/server/services/reach';

export const dynamic = 'force-dynamic';

/** What `?value=` of `?document=` drives. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const wanted = new URL(request.url).searchParams;
  return handle(() => readReach(id, wanted.get('document') ?? '', wanted.get('value') ?? ''));
}
