import type { ProgrammeView, StripsView } from '../../contract/views.ts';
import type { View } from './view.ts';

/** Stretches and moments marked along the length, in frames. */
export interface StripMarks {
  readonly sceneChanges: readonly number[];
  readonly black: readonly { readonly inFrame: number; readonly outFrame: number }[];
  readonly silence: readonly { readonly inFrame: number; readonly outFrame: number }[];
}

/** Colours of the theme, as the page has them. */
export interface StripColours {
  readonly ink: string;
  readonly quiet: string;
  readonly sunk: string;
  readonly measured: string;
  readonly sound: string;
  readonly container: string;
  readonly ember: string;
}

/** What the page tells the worker that draws. */
export type StripsMessage =
  | { readonly type: 'canvas'; readonly canvas: OffscreenCanvas }
  | {
      readonly type: 'programme';
      readonly programme: ProgrammeView;
      /** Of every frame where the rate varies, in seconds; null until they have come, and at a constant rate. */
      readonly frameTimes: readonly number[] | null;
      /** Addresses of pictures are made from this. */
      readonly origin: string;
    }
  | { readonly type: 'strips'; readonly strips: StripsView; readonly marks: StripMarks }
  | {
      readonly type: 'view';
      readonly view: View;
      readonly width: number;
      readonly density: number;
      readonly colours: StripColours;
    };

/** Lanes from top to bottom, in CSS pixels. */
export const LANES = { pictures: 54, sound: 40, busyness: 40, spent: 30, gap: 4 } as const;

/** Height of all lanes; without a picture there is sound alone. */
export function stripsHeight(hasPicture: boolean): number {
  const { pictures: first, sound, busyness, spent, gap } = LANES;
  return hasPicture ? first + sound + busyness + spent + 3 * gap : sound;
}
