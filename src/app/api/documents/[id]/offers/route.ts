import { offerSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { listOffers, offerValues } from '@/server/services/offers';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(() => listOffers(id));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, offerSchema, (body) => offerValues(id, body));
}
