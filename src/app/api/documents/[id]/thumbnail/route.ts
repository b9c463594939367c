import { database } from '@/server/db/connect';
import { readThumbnail } from '@/server/services/pictures';

export const dynamic = 'force-dynamic';

/** A PNG; its address carries the revision, so that it can be kept. */
export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  database();
  const bytes = await readThumbnail(id);
  if (!bytes) return new Response(null, { status: 404 });
  return new Response(Uint8Array.from(bytes), { headers: { 'Content-Type': 'image/png', 'Cache-Control': 'private, max-age=3600' } });
}
