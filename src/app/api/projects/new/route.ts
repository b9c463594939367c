import { newProjectSchema } from '@/contract';
import { succeed } from '@/core/kit';
import { handleBody } from '@/server/http/handle';
import { createProject } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

export function POST(request: Request): Promise<Response> {
  return handleBody(request, newProjectSchema, async ({ name }) => succeed(await createProject(name)));
}
