import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { listValueHistory } from '@/server/services/history';

export const dynamic = 'force-dynamic';

/** What one value was over the revisions. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string; value: string }> }): Promise<Response> {
  const { id, value } = await params;
  return handle(async () => succeed(await listValueHistory(id, value)));
}
