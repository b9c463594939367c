import { fail, succeed } from '@/core/kit';
import { handleWith } from '@/server/http/handle';
import { readThumbnail } from '@/server/services/pictures';

export const dynamic = 'force-dynamic';

/** A PNG; its address carries the revision, so that it can be kept. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handleWith(
    async () => {
      const bytes = await readThumbnail(id);
      return bytes ? succeed(bytes) : fail({ code: 'not-found', message: 'There is no picture of it.' });
    },
    (bytes) => new Response(Uint8Array.from(bytes), { headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' } }),
  );
}
