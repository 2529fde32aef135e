import { describe, expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import { assumeColour, isColourTagged, isHighDynamicRange, peakOf } from './colour.ts';

const NOTHING = { primaries: null, transfer: null, matrix: null, range: null };

// ITU-R BT.709 for HD; BT.601 for SD, whose two rasters differ in their primaries (names of ITU-T H.273).
describe('colour that is not tagged', () => {
  it.each([
    [1080, { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' }],
    [720, { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' }],
    [576, { primaries: 'bt470bg', transfer: 'smpte170m', matrix: 'smpte170m' }],
    [480, { primaries: 'smpte170m', transfer: 'smpte170m', matrix: 'smpte170m' }],
  ])('is what is the custom at %i lines', (height, expected) => {
    expect(assumeColour(NOTHING, height)).toEqual(expected);
  });

  it('is assumed only where a tag is missing', () => {
    expect(assumeColour({ ...NOTHING, matrix: 'bt2020nc' }, 1080)).toMatchObject({
      matrix: 'bt2020nc',
      primaries: 'bt709',
    });
    expect(isColourTagged({ ...NOTHING, primaries: 'bt709', transfer: 'bt709' })).toBe(false);
    expect(isColourTagged({ ...NOTHING, primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' })).toBe(true);
  });

  it('becomes BT.709 from RGB, which has no matrix', () => {
    expect(assumeColour({ ...NOTHING, matrix: 'gbr' }, 480).matrix).toBe('bt709');
  });
});

describe('high dynamic range', () => {
  // ITU-R BT.2100: perceptual quantiser (SMPTE ST 2084) and hybrid log-gamma (ARIB STD-B67).
  it.each([
    ['smpte2084', true],
    ['arib-std-b67', true],
    ['bt709', false],
  ])('%s: %s', (transfer, expected) => {
    const { video } = factsOf({}, { colour: { ...NOTHING, transfer } });
    expect(isHighDynamicRange(video!)).toBe(expected);
  });

  it('is in BT.2020 where only its transfer is told', () => {
    const tags = { ...NOTHING, transfer: 'arib-std-b67' };
    expect(assumeColour(tags, 1080)).toEqual({ primaries: 'bt2020', transfer: 'arib-std-b67', matrix: 'bt2020nc' });
  });

  const light = { masteringLeast: 0.005, masteringMost: 4000, contentMost: null, frameAverageMost: null };
  it.each([
    ['smpte2084', null, 1000],
    ['smpte2084', light, 4000],
    ['smpte2084', { ...light, contentMost: 1850 }, 1850],
    // Zero stands for unknown.
    ['smpte2084', { ...light, contentMost: 0 }, 4000],
    ['arib-std-b67', light, 1000],
  ])('in %s with %j is taken to reach %i cd/m²', (transfer, said, expected) => {
    const { video } = factsOf({}, { colour: { ...NOTHING, transfer }, light: said });
    expect(peakOf(video!)).toBe(expected);
  });
});
