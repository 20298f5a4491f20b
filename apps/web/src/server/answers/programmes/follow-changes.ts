import { onChange } from '../../live.ts';
import type { Call } from '../../call.ts';

const HEARTBEAT_MS = 15_000;

/** What others change in this programme, as server-sent events. */
export function followChanges({ actor, request }: Call): Promise<Response> {
  let stop = () => {};
  const stream = new ReadableStream<Uint8Array>({
    start(controller) {
      const encoder = new TextEncoder();
      const send = (text: string) => controller.enqueue(encoder.encode(text));
      send(': connected\n\n');
      const forget = onChange((event) => {
        if (event.programmeId === actor.programmeId) send(`data: ${event.topic}\n\n`);
      });
      const heartbeat = setInterval(() => send(': still here\n\n'), HEARTBEAT_MS);
      stop = () => {
        forget();
        clearInterval(heartbeat);
      };
      request.signal.addEventListener('abort', stop, { once: true });
    },
    cancel: () => stop(),
  });
  return Promise.resolve(
    new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' } }),
  );
}
