import { handle } from '@/server/http/handle';
import { deleteDocument } from '@/server/services/deletion';
import { readDocument } from '@/server/services/documents';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => readDocument(id));
}

/** Out of every list; kept for thirty days. */
export async function DELETE(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => deleteDocument(id));
}
