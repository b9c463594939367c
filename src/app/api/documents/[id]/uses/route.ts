import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { listUses } from '@/server/services/uses';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(async () => succeed({ uses: await listUses(id) }));
}
