import { defineRawEndpoint } from '../../../server/endpoint.ts';
import { onChange } from '../../../server/live.ts';

const HEARTBEAT_MS = 15_000;

/** What others change in this programme, as server-sent events. */
export const GET = defineRawEndpoint(async ({ actor, request }) => {
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
  return new Response(stream, { headers: { 'content-type': 'text/event-stream', 'cache-control': 'no-cache, no-transform' } });
});
