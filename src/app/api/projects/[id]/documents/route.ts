import { newDocumentSchema } from '@/contract';
import { handleBody } from '@/server/http/handle';
import { createDocumentIn } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleBody(request, newDocumentSchema, (body) => createDocumentIn(id, body));
}
