import { isStopping, subscribe } from '@/server/events';

export const dynamic = 'force-dynamic';

/** Server-sent events: every change of every document, as {@link LiveEvent}s. */
export function GET(request: Request): Response {
  if (isStopping()) return new Response(null, { status: 503, headers: { Connection: 'close' } });
  const encoder = new TextEncoder();
  let stop = (): void => undefined;
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const send = (text: string): void => {
        controller.enqueue(encoder.encode(text));
      };
      send(': connected\n\n');
      const beat = setInterval(() => {
        send(': beat\n\n');
      }, 20_000);
      const end = (): void => {
        stop();
        controller.close();
      };
      const unsubscribe = subscribe((event) => {
        send(`data: ${JSON.stringify(event)}\n\n`);
      }, end);
      stop = () => {
        clearInterval(beat);
        unsubscribe();
      };
      request.signal.addEventListener('abort', () => {
        stop();
      });
    },
    cancel() {
      stop();
    },
  });
  return new Response(stream, { headers: { 'Content-Type': 'text/event-stream', 'Cache-Control': 'no-store, no-transform' } });
}
