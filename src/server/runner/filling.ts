import type { FillView } from '../../contract/views.ts';
import { baseOf, type GroupSource } from '../../core/budget/groupStock.ts';
import { suggestFrameSize } from '../../core/budget/suggestFrameSize.ts';
import type { WeighedPass, WeighedRetouch } from '../../core/budget/weighed.ts';
import type { PictureFacts } from '../../core/plan/encodePlan.ts';
import type { Bytes } from '../../core/units.ts';
import type { FrameSpan } from '../../core/plan/planPicture.ts';
import { RenditionFailure } from './failure.ts';

/** A group of pictures encoded again, with where it lies. */
export interface Retouch extends WeighedRetouch {
  readonly span: FrameSpan;
}

/** A size target on its way: what was encoded so far. */
export interface Filling {
  readonly cap: Bytes;
  readonly out: PictureFacts;
  readonly passes: readonly WeighedPass[];
  readonly retouches: readonly Retouch[];
}

/** The smallest file there could be; `video` is its picture, where the encoder got as far as that. */
export interface Smallest {
  readonly file: Bytes;
  readonly video: Bytes | null;
}

/** The failure of a cap that was not met, with what would fit. */
export function overCap(filling: Filling, { file, video }: Smallest): RenditionFailure {
  const {
    cap,
    out: { size },
  } = filling;
  const smaller = video === null ? null : suggestFrameSize(size, video, cap - (file - video));
  const remedy = smaller
    ? `At ${smaller.width} × ${smaller.height} it should fit`
    : 'No smaller frame size would fit either; lower the sound rate, leave the sound out';
  const said = `${video !== null ? 'was' : 'would be about'} ${file.toLocaleString('en')} bytes`;
  const message = `The cap of ${cap.toLocaleString('en')} bytes was not reached: the smallest file at ${size.width} × ${size.height} ${said}. ${remedy}, or allow more bytes.`;
  return new RenditionFailure({ code: 'cap-below-floor', message }, { fill: viewFill(filling, 'over', null) });
}

/** The groups of a joined file. */
export interface JoinedGroups {
  readonly sources: readonly GroupSource[];
  readonly frames: readonly number[];
}

/**
 * How the size was met, as it is shown.
 *
 * @param chosen - Where each group of a joined file comes from; null for a file that is one of the passes.
 */
export function viewFill(
  { cap, passes, retouches }: Filling,
  outcome: FillView['outcome'],
  chosen: JoinedGroups | null,
): FillView {
  const usedOf = (kind: GroupSource['kind']) =>
    new Set(chosen?.sources.filter((source) => source.kind === kind).map(({ index }) => index));
  const used = usedOf('retouch');
  return {
    cap,
    outcome,
    joinedFrom: chosen && usedOf('pass').size,
    ...(chosen ? { groups: viewGroups(cap, passes, retouches, chosen) } : {}),
    secondPasses: passes.map((pass) => ({
      kbps: null,
      quality: pass.quality,
      bytes: pass.fileBytes,
    })),
    retouches: retouches.map(({ span, quality, bytes }, index) => ({
      inFrame: span.first,
      outFrame: span.first + span.count - 1,
      quality,
      bytes,
      isUsed: used.has(index),
    })),
  };
}

/** What each group was given, against what it would have had at one quality for all. */
function viewGroups(
  cap: Bytes,
  passes: readonly WeighedPass[],
  retouches: readonly Retouch[],
  { sources, frames }: JoinedGroups,
): NonNullable<FillView['groups']> {
  const even = baseOf(cap, passes)?.groups ?? [];
  return sources.map(({ kind, index }, group) => {
    const pass = passes[index];
    const own =
      kind === 'pass'
        ? { quality: pass?.quality ?? 0, bytes: pass?.groups[group] ?? 0 }
        : { quality: retouches[index]?.quality ?? 0, bytes: retouches[index]?.bytes ?? 0 };
    return { frames: frames[group] ?? 0, ...own, evenBytes: even[group] ?? 0 };
  });
}
