import type { Colour } from '../programme/colour.ts';
import type { Sampling } from './scale.ts';
import type { StepDefinition } from './step.ts';
import type { PixelFormat } from './store.ts';

/** High dynamic range is brought down to what ordinary screens show, in the colour of HD. */
export interface ToneMap {
  readonly step: 'toneMap';
  /** What the pixels are before it; one of ITU-R BT.2100's transfers. */
  readonly from: Colour & Pick<Sampling, 'range'>;
  /** How its pixels are stored meanwhile: in 10 bits. */
  readonly format: PixelFormat;
  /** The brightest that is told apart, in cd/m²; what is brighter comes out white. */
  readonly peak: number;
}

/** What pixels are after it (ITU-R BT.709). */
export const STANDARD_COLOUR: Colour = { primaries: 'bt709', transfer: 'bt709', matrix: 'bt709' };
export const STANDARD_SAMPLING: Sampling = { matrix: STANDARD_COLOUR.matrix, range: 'limited' };

/** Another light is a choice, not a loss. */
export const toneMap: StepDefinition = { isInReference: true };
