import { MAX_PROJECT_SIZE } from '@/core/document';
import { fail, succeed } from '@/core/kit';
import { handle, readText } from '@/server/http/handle';
import { scheduleMissing } from '@/server/jobs';
import { listDeletedProjects } from '@/server/services/deletion';
import { listProjects } from '@/server/services/project-list';
import { importProject } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return handle(async () => succeed({ projects: await listProjects(), deleted: await listDeletedProjects() }));
}

/** Imports a project file given as the body. */
export function POST(request: Request): Promise<Response> {
  return handle(async () => {
    // Characters may take several bytes each; how many there are is checked when they are read.
    const text = await readText(request, 3 * MAX_PROJECT_SIZE);
    if (text === undefined)
      return fail({ code: 'too-large', message: `The file is too large; at most ${MAX_PROJECT_SIZE / 1e6} million characters are read.` });
    const imported = await importProject(text, 'import');
    if (imported.ok) await scheduleMissing();
    return imported;
  });
}
