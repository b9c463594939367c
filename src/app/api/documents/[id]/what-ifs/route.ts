import { changeWhatIfSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { changeWhatIf, readWhatIfs } from '@/server/services/what-ifs';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

export async function GET(_: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handle(() => readWhatIfs(id));
}

export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, changeWhatIfSchema, (change) => changeWhatIf(id, change));
}
