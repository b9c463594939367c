import { handle } from '@/server/http/handle';
import { restoreDocument } from '@/server/services/deletion';

export const dynamic = 'force-dynamic';

export async function POST(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => restoreDocument(id));
}
