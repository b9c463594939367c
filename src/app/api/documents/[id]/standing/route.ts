import { handle } from '@/server/http/handle';
import { readStandingOf } from '@/server/services/documents';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => readStandingOf(id));
}
