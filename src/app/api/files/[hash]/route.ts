import { fail, succeed } from '@/core/kit';
import { handleWith } from '@/server/http/handle';
import { readFileContent } from '@/server/services/files';

export const dynamic = 'force-dynamic';

/** The content of a file by its hash, which never means another. */
export async function GET(_: Request, { params }: { params: Promise<{ hash: string }> }): Promise<Response> {
  const { hash } = await params;
  return handleWith(
    async () => {
      const content = await readFileContent(hash);
      return content === undefined ? fail({ code: 'not-found', message: 'There is no such file.' }) : succeed(content);
    },
    (content) => new Response(content, { headers: { 'Content-Type': 'text/plain; charset=utf-8', 'Cache-Control': 'private, max-age=31536000, immutable' } }),
  );
}
