import { handle } from '@/server/http/handle';
import { readProject } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => readProject(id));
}
