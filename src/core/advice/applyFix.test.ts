import { describe, expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import { shareOfMaster } from '../programme/shareOf.ts';
import { OWN_PICTURE, STARTING_RECIPE } from '../recipe/recipe.ts';
import { startingOrder } from '../recipe/suitRecipe.ts';
import type { Fix } from './advisory.ts';
import { applyFix, isApplied, withdrawFix, type OrderState } from './applyFix.ts';

const FACTS = factsOf();
const START: OrderState = { recipe: STARTING_RECIPE, portion: null };
const BARS = { top: 138, bottom: 138, left: 0, right: 0 };

const FIXES: readonly Fix[] = [
  { kind: 'portion', label: 'Trim', portion: { inFrame: 25, outFrame: 1400 } },
  { kind: 'crop', label: 'Crop', crop: BARS },
  { kind: 'deinterlace', label: 'Deinterlace', fields: 'bottom-first' },
  { kind: 'copy', label: 'Copy', container: 'mp4' },
  { kind: 'fit', label: 'Take 540 lines', height: 540 },
  { kind: 'sound', label: 'Mono', channels: 'mono', kbps: 64 },
  { kind: 'join', label: 'Take them together', tracks: [0, 1] },
  { kind: 'frame-rate', label: 'Steady', frameRate: { num: 30, den: 1 } },
  { kind: 'standard-range', label: 'Bring it to standard range' },
  { kind: 'loudness', label: 'Level it', level: { lufs: -14, truePeakDbtp: -1 } },
];

describe('a fix', () => {
  it.each(FIXES.map((fix) => [fix.kind, fix] as const))(
    '%s is done once it is applied, and taken back whole',
    (_kind, fix) => {
      expect(isApplied(FACTS, fix, START)).toBe(false);
      const after = applyFix(FACTS, fix, START);
      expect(isApplied(FACTS, fix, after)).toBe(true);
      expect(withdrawFix(FACTS, fix, after)).toEqual({
        ...START,
        ...(fix.kind === 'copy' ? { recipe: { ...STARTING_RECIPE, picture: OWN_PICTURE } } : {}),
      });
    },
  );

  it('is done as well when its user did the same, or more', () => {
    const [trim] = FIXES as [Fix];
    expect(isApplied(FACTS, trim, { ...START, portion: { inFrame: 100, outFrame: 200 } })).toBe(true);
    expect(isApplied(FACTS, trim, { ...START, portion: { inFrame: 0, outFrame: 200 } })).toBe(false);
    expect(isApplied(FACTS, trim, { ...START, portion: { inFrame: 0, outFrame: 1499 } })).toBe(false);
  });

  it('makes pixels square that an order kept as they are', () => {
    const fix: Fix = { kind: 'square-pixels', label: 'Make pixels square' };
    const picture = { ...STARTING_RECIPE.picture, pixelAspect: 'source' as const };
    const kept = { ...START, recipe: { ...STARTING_RECIPE, picture } };
    expect(isApplied(FACTS, fix, kept)).toBe(false);
    expect(applyFix(FACTS, fix, kept)).toEqual(START);
    expect(isApplied(FACTS, fix, START)).toBe(true);
  });

  it('of the scan leaves frames alone that are whole, and is taken back to what the tag says', () => {
    const tagged = factsOf({}, { interlaced: true, fieldOrder: 'bottom-first' });
    const fix: Fix = { kind: 'deinterlace', label: 'Leave the frames as they are', fields: null };
    const start: OrderState = { recipe: startingOrder(tagged, null), portion: null };
    expect(start.recipe.picture.deinterlace).toBe('bottom-first');
    expect(isApplied(tagged, fix, start)).toBe(false);
    const after = applyFix(tagged, fix, start);
    expect(after.recipe.picture.deinterlace).toBeNull();
    expect(withdrawFix(tagged, fix, after)).toEqual(start);
  });
});

describe('what an order begins with', () => {
  const fieldsOf = (scan: Parameters<typeof startingOrder>[1], interlaced = true) =>
    startingOrder(factsOf({}, { interlaced, fieldOrder: interlaced ? 'bottom-first' : null }), scan).picture
      .deinterlace;

  it('goes by the picture where it is known, and by the tag until then', () => {
    expect(fieldsOf(null)).toBe('bottom-first');
    expect(fieldsOf('progressive')).toBeNull();
    expect(fieldsOf('top-first')).toBe('top-first');
    expect(fieldsOf('mixed')).toBe('bottom-first');
    expect(fieldsOf('top-first', false)).toBe('top-first');
    expect(fieldsOf(null, false)).toBeNull();
  });
});

describe('the share of a master', () => {
  it('is as long as the portion is', () => {
    expect(shareOfMaster({ bytes: 150_000_000, durationSeconds: 60 }, 6)).toBe(15_000_000);
    expect(shareOfMaster({ bytes: 9, durationSeconds: 0 }, 0)).toBe(9);
  });
});
