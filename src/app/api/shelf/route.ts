import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { listShelf } from '@/server/services/shelf';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return handle(async () => succeed(await listShelf()));
}
