import { copyDocumentSchema } from '@/contract';
import { handleBody } from '@/server/http/handle';
import { copyDocument } from '@/server/services/copy-document';

export const dynamic = 'force-dynamic';

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleBody(request, copyDocumentSchema, (body) => copyDocument(id, body));
}
