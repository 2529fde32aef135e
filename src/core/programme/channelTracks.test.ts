import { describe, expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import { channelTracks, heardTracks } from './channelTracks.ts';
import type { AudioFacts } from './facts.ts';
import { webTypeOf } from './playable.ts';

const mono: AudioFacts = { ...factsOf().audio[0]!, channels: 1, layout: 'mono', language: null, title: null };

/** So many tracks of one channel, the later ones changed. */
function tracks(count: number, change: (number: number) => Partial<AudioFacts> = () => ({})): AudioFacts[] {
  return Array.from({ length: count }, (_, number) => ({ ...mono, index: number + 1, ...change(number) }));
}

describe('tracks of one channel each', () => {
  it.each([
    [1, null],
    [2, [0, 1]],
    [3, [0, 1]],
    [4, [0, 1]],
    [6, [0, 1, 2, 3, 4, 5]],
    [8, [0, 1]],
  ])('that are %i give the channels %j', (count, expected) => {
    expect(channelTracks(tracks(count))).toEqual(expected);
    expect(heardTracks(tracks(count)).map(({ index }) => index - 1)).toEqual(expected ?? [0]);
  });

  it.each(['Left', 'R', 'Channel 2', 'Audio 1', 'Track #3', 'Lt', 'left surround', 'Mono 1', '2'])(
    'are channels under the title %s',
    (title) => {
      expect(channelTracks(tracks(2, (number) => ({ title: number ? title : null })))).toEqual([0, 1]);
    },
  );

  it.each([
    ['a language of its own', { language: 'deu' }],
    ['a title that says what it is', { title: 'Director’s comments' }],
    ['music and effects', { title: 'M&E' }],
    ['two channels', { channels: 2 }],
    ['another codec', { codec: 'mp3' }],
    ['another sample rate', { sampleRate: 44100 }],
    ['a later beginning', { startSeconds: mono.startSeconds + 1 }],
    ['an earlier end', { durationSeconds: mono.durationSeconds - 1 }],
  ])('are sounds by themselves where one has %s', (_what, change: Partial<AudioFacts>) => {
    expect(channelTracks(tracks(2, (number) => (number === 1 ? change : {})))).toBeNull();
  });

  it('are not left to players, which take one track', () => {
    const facts = factsOf({ container: 'MP4', audio: [{ ...mono, codec: 'aac' }] });
    expect(webTypeOf(facts)).toContain('video/mp4');
    expect(webTypeOf({ ...facts, audio: tracks(2, () => ({ codec: 'aac' })) })).toBeNull();
  });
});
