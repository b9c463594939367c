import { MAX_PROJECT_SIZE } from '@/core/document';
import { fail, succeed } from '@/core/kit';
import { handle, readText } from '@/server/http/handle';
import { scheduleMissing } from '@/server/jobs';
import { importProject, listProjects } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return handle(async () => succeed({ projects: await listProjects() }));
}

/** Imports a project file given as the body. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    const text = await readText(request, MAX_PROJECT_SIZE);
    if (text === undefined) return fail({ code: 'too-large', message: 'The file is too large.' });
    const imported = await importProject(text, 'import');
    if (imported.ok) await scheduleMissing();
    return imported;
  });
}
