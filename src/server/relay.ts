import type { ServerEvent } from '../contract/views.ts';
import type { Context } from './context.ts';
import { findProgramme, summariseProgramme } from './programmes/programmes.ts';
import { findSummary } from './renditions/renditions.ts';
import { viewTakeIn } from './takein/takeIns.ts';

/** On this channel processes on one database tell each other what changed. */
const CHANNEL = 'linstock_events';

/** What travels: small events as they are; of large ones only what they are about, which the other reads for itself. */
type Message = { readonly origin: string } & (
  { readonly event: ServerEvent } | { readonly about: 'rendition' | 'programme' | 'takein'; readonly id: string }
);

/** Lets pages of this process see what others do, and the other way round; nothing where there is only one. */
export async function startRelay(context: Context): Promise<{ stop(): Promise<void> }> {
  const { database, events, logger } = context;
  if (database.kind === 'embedded') return { stop: () => Promise.resolve() };
  const origin = context.newId();
  const silence = await database.listen(CHANNEL, (text) => {
    const message = JSON.parse(text) as Message;
    if (message.origin === origin) return;
    read(context, message).then(
      (event) => event && events.hear(event),
      (error: unknown) => logger.warn({ err: error }, 'what another process did was not understood'),
    );
  });
  const unsubscribe = events.onPublished((event) => {
    const text = JSON.stringify({ origin, ...write(event) });
    database.notify(CHANNEL, text).catch((error: unknown) => logger.warn({ err: error }, 'nobody could be told'));
  });
  return {
    stop: async () => {
      unsubscribe();
      await silence();
    },
  };
}

function write(event: ServerEvent): { event: ServerEvent } | { about: string; id: string } {
  switch (event.type) {
    case 'rendition':
      return { about: event.type, id: event.rendition.id };
    case 'programme':
      return { about: event.type, id: event.programme.id };
    case 'takein':
      return { about: event.type, id: event.takeIn.id };
    default:
      return { event };
  }
}

/** @returns null for what went in the meantime. */
async function read(context: Context, message: Message): Promise<ServerEvent | null> {
  if ('event' in message) return message.event;
  const { about, id } = message;
  switch (about) {
    case 'rendition': {
      const rendition = await findSummary(context, id);
      return rendition && { type: about, rendition };
    }
    case 'programme':
      return { type: about, programme: summariseProgramme(await findProgramme(context, id)) };
    case 'takein':
      return { type: about, takeIn: await viewTakeIn(context, id) };
  }
}
