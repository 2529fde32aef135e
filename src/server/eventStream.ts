import type { ServerEvent } from '../contract/views.ts';

/** Where events go: a stream that says how much more it would take. */
interface Outlet {
  readonly desiredSize: number | null;
  enqueue(event: ServerEvent): void;
}

/** Events on their way to one page. */
export interface EventStream {
  send(event: ServerEvent): void;
  /** The page has read on. */
  drain(): void;
}

/**
 * Sends events as fast as a page reads them. What a page has not read yet is replaced by what is newer about the same, so
 * that a slow one holds no more than one event for each thing that changed.
 */
export function createEventStream(outlet: Outlet): EventStream {
  const waiting = new Map<string, ServerEvent>();
  const drain = () => {
    for (const [key, event] of waiting) {
      if ((outlet.desiredSize ?? 0) <= 0) return;
      waiting.delete(key);
      outlet.enqueue(event);
    }
  };
  return {
    send: (event) => {
      const key = subjectOf(event);
      // To the end of the line: an older word about the same thing must not come after this one.
      waiting.delete(key);
      waiting.set(key, event);
      drain();
    },
    drain,
  };
}

/** What an event is about. */
function subjectOf(event: ServerEvent): string {
  switch (event.type) {
    case 'rendition':
      return `rendition ${event.rendition.id}`;
    case 'position':
      return `position ${event.id}`;
    case 'programme':
      return `programme ${event.programme.id}`;
    case 'programme-forgotten':
      return `forgotten ${event.programmeId}`;
    case 'takein':
      return `takein ${event.takeIn.id}`;
    case 'work':
      return `work ${event.programmeId} ${event.page}`;
    case 'shelf':
      return `shelf ${event.kind}`;
    case 'batch':
      return `batch ${event.id}`;
    case 'queue':
      return event.type;
    case 'trial':
      // How one ended must not give way to how the next begins.
      return `trial ${event.programmeId} ${event.hasEnded}`;
    case 'sounding':
    case 'analysis':
      return `${event.type} ${event.programmeId}`;
  }
}
