import { EventEmitter } from 'node:events';
import type { ServerEvent } from '../contract/views.ts';

/** Tells everyone who listens what changed. */
export interface Events {
  publish(event: ServerEvent): void;
  /** @returns A function that ends the subscription. */
  subscribe(listener: (event: ServerEvent) => void): () => void;
}

/** Events within this process. */
export function createEvents(): Events {
  const emitter = new EventEmitter();
  // Every open page listens; a warning at eleven would be noise.
  emitter.setMaxListeners(0);
  return {
    publish: (event) => void emitter.emit('event', event),
    subscribe: (listener) => {
      emitter.on('event', listener);
      return () => void emitter.off('event', listener);
    },
  };
}
