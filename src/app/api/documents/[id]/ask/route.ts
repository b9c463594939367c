import { handle } from '@/server/http/handle';
import { answerDocument } from '@/server/services/outside';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function POST(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(() => answerDocument(id));
}
