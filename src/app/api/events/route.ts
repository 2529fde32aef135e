import type { ServerEvent } from '../../../contract/views.ts';
import { createEventStream } from '../../../server/eventStream.ts';
import { route } from '../../../server/http.ts';

export const dynamic = 'force-dynamic';

/** A comment now and then keeps proxies and browsers from closing a quiet stream. */
const KEEP_ALIVE_MS = 20_000;

/** Events that lie ready for a page at most, before newer ones take the place of older. */
const AHEAD = 32;

export const GET = route(({ context }, request) => {
  const encoder = new TextEncoder();
  let close: () => void = () => undefined;
  let drain: () => void = () => undefined;
  const stream = new ReadableStream<Uint8Array>(
    {
      start: (controller) => {
        const send = (text: string) => controller.enqueue(encoder.encode(text));
        const events = createEventStream({
          get desiredSize() {
            return controller.desiredSize;
          },
          enqueue: (event: ServerEvent) => send(`event: ${event.type}\ndata: ${JSON.stringify(event)}\n\n`),
        });
        drain = events.drain;
        const unsubscribe = context.events.subscribe(events.send);
        const timer = setInterval(() => send(': still here\n\n'), KEEP_ALIVE_MS);
        close = () => {
          unsubscribe();
          clearInterval(timer);
        };
        request.signal.addEventListener('abort', close);
        send('retry: 2000\n\n');
      },
      pull: () => drain(),
      cancel: () => close(),
    },
    { highWaterMark: AHEAD },
  );
  return new Response(stream, {
    headers: {
      'content-type': 'text/event-stream',
      'cache-control': 'no-cache, no-transform',
      'x-accel-buffering': 'no',
    },
  });
});
