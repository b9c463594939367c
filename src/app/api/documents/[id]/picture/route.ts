import { succeed } from '@/core/kit';
import { handle } from '@/server/http/handle';
import { readPicture } from '@/server/services/pictures';

export const dynamic = 'force-dynamic';

export async function GET(_: Request, { params }: { params: Promise<{ id: string }> }): Promise<Response> {
  const { id } = await params;
  return handle(async () => succeed(await readPicture(id)));
}
