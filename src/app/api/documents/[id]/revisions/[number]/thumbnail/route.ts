import { fail, succeed } from '@/core/kit';
import { handleWith } from '@/server/http/handle';
import { readRevisionThumbnail } from '@/server/services/pictures';

export const dynamic = 'force-dynamic';

/** A PNG; a revision never changes, so that it can be kept. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string; number: string }> }): Promise<Response> {
  const { id, number } = await params;
  return handleWith(
    async () => {
      const bytes = /^\d{1,9}$/.test(number) ? await readRevisionThumbnail(id, Number(number)) : undefined;
      return bytes ? succeed(bytes) : fail({ code: 'not-found', message: 'There is no picture of it.' });
    },
    (bytes) => new Response(Uint8Array.from(bytes), { headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' } }),
  );
}
