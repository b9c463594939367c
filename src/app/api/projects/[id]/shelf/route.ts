import { takeFromShelfSchema } from '@/contract';
import { handleBody } from '@/server/http/handle';
import { takeFromShelf } from '@/server/services/shelf';

export const dynamic = 'force-dynamic';

/** Puts copies of items of the shelf into the project. */
export async function POST(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleBody(request, takeFromShelfSchema, (body) => takeFromShelf(id, body));
}
