import { EventEmitter } from 'node:events';
import type { ServerEvent } from '../contract/views.ts';

type Listener = (event: ServerEvent) => void;

/** Tells everyone who listens what changed. */
export interface Events {
  /** Something changed here. */
  publish(event: ServerEvent): void;
  /** Something changed in another process. */
  hear(event: ServerEvent): void;
  /** @returns A function that ends the subscription. */
  subscribe(listener: Listener): () => void;
  /** Only what changed here. */
  onPublished(listener: Listener): () => void;
}

/** Events of this process, and those it hears of. */
export function createEvents(): Events {
  const emitter = new EventEmitter();
  // Every open page listens; a warning at eleven would be noise.
  emitter.setMaxListeners(0);
  const on = (name: string) => (listener: Listener) => {
    emitter.on(name, listener);
    return () => void emitter.off(name, listener);
  };
  return {
    publish: (event) => {
      emitter.emit('event', event);
      emitter.emit('published', event);
    },
    hear: (event) => void emitter.emit('event', event),
    subscribe: on('event'),
    onPublished: on('published'),
  };
}
