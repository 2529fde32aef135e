import { describe, expect, it } from 'vitest';
import type { RenditionPosition, ServerEvent } from '../contract/views.ts';
import { createEventStream } from './eventStream.ts';

function outlet(room: number) {
  const sent: ServerEvent[] = [];
  let left = room;
  return {
    sent,
    read: (count: number) => (left += count),
    get desiredSize() {
      return left;
    },
    enqueue: (event: ServerEvent) => {
      left -= 1;
      sent.push(event);
    },
  };
}

const at = (id: string, fraction: number): ServerEvent => ({
  type: 'position',
  id,
  position: { state: 'running', fraction } as RenditionPosition,
});
const sounding = (programmeId: string): ServerEvent => ({ type: 'sounding', programmeId });

describe('events to a page', () => {
  it('go out at once while it reads', () => {
    const to = outlet(3);
    const stream = createEventStream(to);
    [at('a', 0.1), sounding('p'), at('a', 0.2)].forEach(stream.send);
    expect(to.sent).toEqual([at('a', 0.1), sounding('p'), at('a', 0.2)]);
  });

  it('are only the newest about each thing once a slow one reads on, in the order of the news', () => {
    const to = outlet(1);
    const stream = createEventStream(to);
    for (let step = 0; step < 1000; step += 1) {
      stream.send(at('a', step / 1000));
      if (step === 500) stream.send(sounding('p'));
    }
    expect(to.sent).toEqual([at('a', 0)]);
    to.read(1);
    stream.drain();
    expect(to.sent).toEqual([at('a', 0), sounding('p')]);
    to.read(5);
    stream.drain();
    expect(to.sent.slice(2)).toEqual([at('a', 0.999)]);
  });
});
