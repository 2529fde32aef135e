import { bytes, type Bytes } from '../units.ts';
import type { QualityScale } from '../video/definition.ts';
import { chooseGroups, type GroupVersion } from './chooseGroups.ts';
import { nearestTo, type WeighedPass, type WeighedRetouch } from './weighed.ts';

/** What a group of pictures is taken from: a second pass, or the group encoded again by itself; by index. */
export type GroupSource =
  { readonly kind: 'pass'; readonly index: number } | { readonly kind: 'retouch'; readonly index: number };

/** The groups of pictures there are to choose from. */
export interface GroupStock {
  readonly groups: readonly (readonly GroupVersion<GroupSource>[])[];
  /** Bytes of a joined file that are not picture. */
  readonly fixed: Bytes;
  /** Bytes the picture may take, so that the file stays below the cap. */
  readonly room: number;
}

/**
 * Passes are joined when nobody sees where: nearly of one size, or nearly of one mean quantiser, which for noise that an
 * encoder keeps or drops may go with very different sizes.
 */
const JOINABLE_SPAN = 0.1;
/** As the logarithm of the sizes that go with them, as a rule. */
const JOINABLE_QUANTISERS = 0.21;

/** A group encoded again may be this much smaller than any pass made it, and not yet look worse than its neighbours. */
const JOINABLE_SHRINK = 1.6;

/** A joined file's tables may be this much longer than those of its passes; it is weighed again all the same. */
const JOIN_SLACK_BYTES = 256;

/**
 * All versions of each group of pictures that look enough like each other to stand in one file.
 *
 * @param cap - Whole file, in bytes; what looks like the pass nearest to it counts.
 * @returns null where nothing can be put together: no passes, or passes of a single group or of none that are the same.
 */
export function stockGroups(
  cap: Bytes,
  scale: QualityScale,
  passes: readonly WeighedPass[],
  retouches: readonly WeighedRetouch[],
): GroupStock | null {
  const nearest = nearestTo(
    cap,
    passes.filter((pass) => pass.groups.length > 1),
  );
  if (!nearest) return null;
  const near = passes.flatMap((pass, index) =>
    pass.groups.length === nearest.groups.length && looksLike(scale, nearest, pass) ? [{ pass, index }] : [],
  );
  const groups = nearest.groups.map((_, group) => {
    const ofPasses = near.map(({ pass, index }) => version('pass', index, pass.groups[group] ?? 0));
    const sizes = ofPasses.map((one) => one.bytes);
    const least = Math.min(...sizes) / JOINABLE_SHRINK;
    const again = retouches.flatMap((retouch, index) => {
      const size = retouch.group === group ? retouch.bytes : null;
      return size !== null && size >= least ? [version('retouch', index, size)] : [];
    });
    return [...ofPasses, ...again];
  });
  const fixed = bytes(Math.max(...near.map(({ pass }) => pass.fileBytes - pass.videoBytes)));
  return { groups, fixed, room: cap - fixed - JOIN_SLACK_BYTES };
}

function version(kind: GroupSource['kind'], index: number, size: number): GroupVersion<GroupSource> {
  return { source: { kind, index }, bytes: size };
}

/**
 * The fullest file that groups of pictures make below the cap of their stock.
 *
 * @returns For each group its source, and what the file will weigh; null where they make none.
 */
export function fullestJoin(
  stock: GroupStock | null,
): { readonly sources: readonly GroupSource[]; readonly fileBytes: Bytes } | null {
  // A single version of everything is a pass, and nothing to be joined.
  if (!stock?.groups.some((versions) => versions.length > 1)) return null;
  const choice = chooseGroups(stock.groups, stock.room);
  return choice && { sources: choice.sources, fileBytes: bytes(choice.bytes + stock.fixed) };
}

function looksLike({ slope }: QualityScale, one: WeighedPass, other: WeighedPass): boolean {
  if (Math.abs(one.videoBytes / other.videoBytes - 1) <= JOINABLE_SPAN) return true;
  if (one.meanQuantiser === null || other.meanQuantiser === null) return false;
  return Math.abs((one.meanQuantiser - other.meanQuantiser) * slope) <= JOINABLE_QUANTISERS + 1e-9;
}
