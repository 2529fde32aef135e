import type { FrameSize } from '../geometry/frameSize.ts';
import { BLUR, type Edges } from '../geometry/preparation.ts';
import { inTransfer } from './brightness.ts';
import type { Colour } from '../programme/colour.ts';
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
 * @param colour - Of the result, which decides how what is beside it is stored.
 */
export function padTo(frame: FrameSize, inside: FrameSize, beside: string, colour: Colour, format: PixelFormat): Pad {
  const { matrix, transfer } = colour;
  const [across, down] = [frame.width - inside.width, frame.height - inside.height];
  const before = (pixels: number) => 2 * Math.floor(pixels / 4);
  return {
    step: 'pad',
    inside,
    edges: { top: before(down), bottom: down - before(down), left: before(across), right: across - before(across) },
    beside: beside === BLUR ? BLUR : fromRgb(inTransfer(readColour(beside), transfer), weightsOf(matrix)),
    format,
  };
}
