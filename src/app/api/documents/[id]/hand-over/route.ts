import { handOverSchema } from '@/contract';
import { handleBody } from '@/server/http/handle';
import { handOver } from '@/server/services/hand-over';

export const dynamic = 'force-dynamic';

export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleBody(request, handOverSchema, (body) => handOver(id, body));
}
