import { changeProjectSchema } from '@/contract';
import { handle, handleBody } from '@/server/http/handle';
import { deleteProject } from '@/server/services/deletion';
import { changeProject, readProject } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => readProject(id));
}

export async function PATCH(request: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleBody(request, changeProjectSchema, (changes) => changeProject(id, changes));
}

/** Out of every list; kept for thirty days. */
export async function DELETE(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(() => deleteProject(id));
}
