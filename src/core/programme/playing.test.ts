import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { rational } from '../timing/rational.ts';
import { clockOf, factsOf } from '../../testing/facts.ts';
import { webTypeOf } from './playable.ts';
import { countPieces, pieceAt, pieceOf } from './standIn.ts';

const AAC = factsOf().audio.map((track) => ({ ...track, codec: 'aac' }));

describe('what a browser is asked', () => {
  it('is the codec string of the master (RFC 6381)', () => {
    // H.264 High at level 4.0 is avc1.640028, AAC-LC mp4a.40.2 (values from memory).
    const type = webTypeOf(factsOf({ container: 'MP4', audio: AAC }));
    expect(type).toBe('video/mp4; codecs="avc1.640028, mp4a.40.2"');
  });

  it.each([
    ['QuickTime', factsOf({ container: 'QuickTime', audio: AAC })],
    ['PCM in MP4', factsOf({ container: 'MP4' })],
    ['ten bits', factsOf({ container: 'MP4', audio: AAC }, { bitDepth: 10 })],
    ['4:2:2', factsOf({ container: 'MP4', audio: AAC }, { chroma: '4:2:2' })],
    ['HEVC', factsOf({ container: 'MP4', audio: AAC }, { codec: 'hevc' })],
    ['fields', factsOf({ container: 'MP4', audio: AAC }, { interlaced: true })],
  ])('is nothing for %s, which goes by a stand-in', (_, facts) => {
    expect(webTypeOf(facts)).toBeNull();
  });

  it('is plain for sound files', () => {
    expect(webTypeOf(factsOf({ video: null, container: 'WAV' }))).toBe('audio/wav');
  });
});

describe('pieces of a stand-in', () => {
  it('cover every frame once, and the piece of a moment holds it', () => {
    fc.assert(
      fc.property(
        fc.integer({ min: 1, max: 300_000 }),
        fc.constantFrom(rational(25, 1), rational(30000, 1001), rational(60000, 1001)),
        fc.double({ min: 0, max: 0.9999, noNaN: true }),
        (frameCount, frameRate, share) => {
          const facts = factsOf({
            frameCount,
            frameRate,
            durationSeconds: (frameCount * frameRate.den) / frameRate.num,
          });
          const clock = clockOf(facts);
          const pieces = Array.from({ length: countPieces(facts) }, (_, number) => pieceOf(facts, clock, number)!);
          expect(pieces.reduce((sum, piece) => sum + piece.frameCount, 0)).toBe(frameCount);
          const frame = Math.floor(share * frameCount);
          const piece = pieces[pieceAt(facts, clock, (frame * frameRate.den) / frameRate.num)]!;
          expect(frame).toBeGreaterThanOrEqual(piece.inFrame);
          expect(frame).toBeLessThan(piece.inFrame + piece.frameCount);
        },
      ),
      { seed: 17 },
    );
  });

  it('end where the programme ends', () => {
    const facts = factsOf();
    expect(pieceOf(facts, clockOf(facts), countPieces(facts))).toBeNull();
    expect(pieceOf(facts, clockOf(facts), -1)).toBeNull();
  });
});
