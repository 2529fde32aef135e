import type { FrameSize } from '../geometry/frameSize.ts';
import { BLUR, type Edges } from '../geometry/preparation.ts';
import { fromRgb, readColour, weightsOf, type LumaChroma } from './lumaChroma.ts';
import type { StepDefinition } from './step.ts';
import type { PixelFormat } from './store.ts';

/** A picture stands in a larger frame: something is beside it at two sides that lie across from each other. */
export interface Pad {
  readonly step: 'pad';
  /** Of the picture. */
  readonly inside: FrameSize;
  /** What is beside it; two of them are 0. */
  readonly edges: Edges;
  /** A colour, or the picture itself, large and out of focus. */
  readonly beside: LumaChroma | 'blur';
  /** How its pixels are stored. */
  readonly format: PixelFormat;
}

/** A result is compared without what is beside the picture, which no master has. */
export const pad: StepDefinition = { isInReference: false };

/**
 * How a picture is padded; in the middle, on even pixels.
 *
 * @param matrix - Of the result, which decides how a colour is stored.
 */
export function padTo(frame: FrameSize, inside: FrameSize, beside: string, matrix: string, format: PixelFormat): Pad {
  const [across, down] = [frame.width - inside.width, frame.height - inside.height];
  const before = (pixels: number) => 2 * Math.floor(pixels / 4);
  return {
    step: 'pad',
    inside,
    edges: { top: before(down), bottom: down - before(down), left: before(across), right: across - before(across) },
    beside: beside === BLUR ? BLUR : fromRgb(readColour(beside), weightsOf(matrix)),
    format,
  };
}
