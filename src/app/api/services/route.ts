import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { readServices } from '@/server/services/outside';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return handle(async () => succeed(await readServices()));
}
