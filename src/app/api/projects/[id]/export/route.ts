import { exportProject } from '@/server/services/projects';
import { handle } from '@/server/http/handle';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  const file = await exportProject(id);
  if (!file.ok) return handle(() => Promise.resolve(file));
  return new Response(file.value, {
    headers: { 'Content-Type': 'application/json', 'Content-Disposition': 'attachment; filename="project.warpbeam.json"' },
  });
}
