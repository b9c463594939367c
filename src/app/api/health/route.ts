import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { database } from '@/server/db/connect';

export const dynamic = 'force-dynamic';

export function GET(): Promise<Response> {
  return handle(async () => {
    await database().query('SELECT 1');
    return succeed({ ok: true });
  });
}
