import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { listChangeSets } from '@/server/services/change-sets';

export const dynamic = 'force-dynamic';

/** A page, newest first; `?before=` is the time of the last one that is known. */
export async function GET(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const before = new Date(new URL(request.url).searchParams.get('before') ?? NaN);
  return handle(async () => succeed(await listChangeSets(id, Number.isNaN(before.getTime()) ? undefined : before)));
}
