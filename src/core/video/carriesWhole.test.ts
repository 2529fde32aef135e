import { describe, expect, it } from 'vitest';
import type { PixelFormat } from '../picture/store.ts';
import type { VideoFacts } from '../programme/facts.ts';
import { factsOf } from '../../testing/facts.ts';
import { carriesWhole, formatForWhole } from './carriesWhole.ts';
import { MASTERS } from './codecs.ts';

const video = (changes: Partial<VideoFacts>) => factsOf({}, changes).video!;
const { formats } = MASTERS.ffv1;

describe('a master’s pixels', () => {
  it.each<[string, Partial<VideoFacts>, PixelFormat]>([
    ['of the web', { chroma: '4:2:0', bitDepth: 8 }, '420p8'],
    ['of a master for editing', { chroma: '4:2:2', bitDepth: 10 }, '422p10'],
    ['of a DV tape', { chroma: '4:1:1', bitDepth: 8 }, '422p8'],
    ['of twelve bits', { chroma: '4:4:4', bitDepth: 12 }, '444p12'],
    ['of fourteen bits', { chroma: '4:2:0', bitDepth: 14 }, '420p16'],
    ['of twelve bits with transparency', { chroma: '4:4:4', bitDepth: 12, alpha: true }, '444p16a'],
    ['with transparency', { chroma: '4:4:4', bitDepth: 10, alpha: true }, '444p10a'],
    ['of light alone', { chroma: '4:0:0', bitDepth: 8 }, '420p8'],
  ])('%s are stored whole', (_name, changes, format) => {
    expect(formatForWhole(formats, video(changes))).toBe(format);
  });

  it.each<[number, PixelFormat]>([
    [8, '420p10'],
    [10, '420p12'],
  ])('of full range in %i bits take more', (bitDepth, format) => {
    const full = video({ chroma: '4:2:0', bitDepth, colour: { ...video({}).colour, range: 'full' } });
    expect(formatForWhole(formats, full)).toBe(format);
    expect(carriesWhole('420p8', full)).toBe(false);
  });
});
