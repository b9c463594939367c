import { previewWhatIfSchema } from '@/contract';
import { handleBody } from '@/server/http/handle';
import { previewWhatIf } from '@/server/services/what-ifs';

export const dynamic = 'force-dynamic';

interface Context {
  params: Promise<{ id: string }>;
}

/** What all that takes from the document would be; nothing is changed. */
export async function POST(request: Request, { params }: Context): Promise<Response> {
  const { id } = await params;
  return handleBody(request, previewWhatIfSchema, (wish) => previewWhatIf(id, wish));
}
