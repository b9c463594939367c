import { handle } from '@/server/http/handle';
import { scheduleMissing } from '@/server/jobs';
import { openExample } from '@/server/services/projects';

export const dynamic = 'force-dynamic';

/** Imports the project that ships with the program, where it is not there yet. */
export function POST(): Promise<Response> {
  return handle(async () => {
    const opened = await openExample();
    if (opened.ok) await scheduleMissing();
    return opened;
  });
}
