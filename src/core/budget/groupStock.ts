import { bytes, type Bytes } from '../units.ts';
import type { QualityScale } from '../video/definition.ts';
import { chooseGroups, type GroupChoice, type GroupVersion } from './chooseGroups.ts';
import { nearestTo, type WeighedPass, type WeighedRetouch } from './weighed.ts';

/** What a group of pictures is taken from: an encode of the whole, or the group encoded again by itself; by index. */
export type GroupSource =
  { readonly kind: 'pass'; readonly index: number } | { readonly kind: 'retouch'; readonly index: number };

/** The groups of pictures there are to choose from. */
export interface GroupStock {
  readonly groups: readonly (readonly StockedGroup[])[];
  /** Bytes of a joined file that are not picture. */
  readonly fixed: Bytes;
  /** Bytes the picture may take, so that the file stays below the cap. */
  readonly room: number;
  /** The best of them below the room; null where even the smallest of every group are too much. */
  readonly choice: GroupChoice<GroupSource> | null;
}

/** What groups are taken from. */
interface StockRequest {
  readonly passes: readonly WeighedPass[];
  readonly retouches: readonly WeighedRetouch[];
  /** Of each group in the encode nearest to the cap, as measured; null counts bytes alone. */
  readonly losses: readonly number[] | null;
  /** Bytes by which joined files come out larger than this reckons. */
  readonly joinedMore: number;
}

/** A version of a group, with the quality it was asked at. */
export type StockedGroup = GroupVersion<GroupSource> & { readonly quality: number };

/**
 * Encodes whose sizes go apart by more than this logarithm, as a rule, are not joined: it would be seen where. Nor does a group
 * stand beside others that fell further than that from what it was: an encoder that drops grain from one step of quality to
 * another made a third of it, eight decibels worse than its neighbours (measured).
 */
const JOINABLE = 0.5;

/**
 * A joined file's tables may be this much longer than those of its passes, and of a small cap no more than this share is left for it, or
 * nothing would be filled; it is weighed again all the same.
 */
const JOIN_SLACK_BYTES = 256;
const JOIN_SLACK_SHARE = 0.001;

/** Loss falls with the root of the bytes, as a rule: half the distance to the master takes four times as much. */
const LOSS_POWER = 0.5;

/**
 * All versions of each group of pictures that look enough like each other to stand in one file.
 *
 * @param cap - Whole file, in bytes; what looks like the encode nearest to it counts.
 * @returns null where nothing can be put together: no encode, or one of a single group.
 */
export function stockGroups(
  cap: Bytes,
  { slope }: QualityScale,
  { passes, retouches, losses, joinedMore }: StockRequest,
): GroupStock | null {
  const base = baseOf(cap, passes);
  if (!base) return null;
  const near = passes.flatMap((pass, index) => {
    const isAlike = Math.abs((pass.quality - base.quality) * slope) <= JOINABLE + 1e-9;
    return pass.groups.length === base.groups.length && isAlike ? [{ pass, index }] : [];
  });
  const groups = base.groups.map((present, group) => {
    const reckoned = (size: number) => (losses?.[group] ?? present) * (present / Math.max(1, size)) ** LOSS_POWER;
    const ofPasses = near.map(({ pass: { groups: sizes, quality }, index }): StockedGroup => {
      const size = sizes[group] ?? 0;
      return { source: { kind: 'pass', index }, bytes: size, quality, loss: reckoned(size) };
    });
    const again = retouches.flatMap(({ group: its, bytes: size, quality, loss }, index): StockedGroup[] => {
      const isAlike = size !== null && Math.abs(Math.log(size / Math.max(1, present))) <= JOINABLE;
      if (its !== group || !isAlike) return [];
      return [{ source: { kind: 'retouch', index }, bytes: size, quality, loss: loss ?? reckoned(size) }];
    });
    return [...ofPasses, ...again];
  });
  const fixed = bytes(Math.max(...near.map(({ pass }) => pass.fileBytes - pass.videoBytes)) + joinedMore);
  const room = cap - fixed - Math.min(JOIN_SLACK_BYTES, Math.floor(cap * JOIN_SLACK_SHARE));
  return { groups, fixed, room, choice: chooseGroups(groups, room) };
}

/** The encode nearest to a cap that has groups to choose from; undefined where none has. */
export function baseOf(cap: Bytes, passes: readonly WeighedPass[]): WeighedPass | undefined {
  return nearestTo(
    cap,
    passes.filter((pass) => pass.groups.length > 1),
  );
}

/**
 * The file that groups of pictures make below the cap of their stock.
 *
 * @returns For each group its source, and what the file will weigh; null where they make none.
 */
export function joinStock(
  stock: GroupStock | null,
): { readonly sources: readonly GroupSource[]; readonly fileBytes: Bytes } | null {
  // A single version of everything is an encode, and nothing to be joined.
  if (!stock?.groups.some((versions) => versions.length > 1)) return null;
  const { choice } = stock;
  return choice && { sources: choice.sources, fileBytes: bytes(choice.bytes + stock.fixed) };
}
