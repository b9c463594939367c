import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { listChangeSets } from '@/server/services/change-sets';

export const dynamic = 'force-dynamic';

/** A page, newest first; `?before=` and `?id=` are the time and id of the last one that is known. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const { searchParams } = new URL(request.url);
  const at = new Date(searchParams.get('before') ?? NaN);
  const before = Number.isNaN(at.getTime()) ? undefined : { at, id: searchParams.get('id') ?? '' };
  return handle(async () => succeed(await listChangeSets(id, before)));
}
