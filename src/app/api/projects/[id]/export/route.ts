import { exportProject } from '@/server/services/projects';
import { handleWith } from '@/server/http/handle';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleWith(
    () => exportProject(id),
    (file) =>
      new Response(file, {
        headers: { 'Content-Type': 'application/json', 'Content-Disposition': 'attachment; filename="project.warpbeam.json"', 'Cache-Control': 'no-store' },
      }),
  );
}
