import type { FrameSize } from '../geometry/frameSize.ts';
import type { StepDefinition } from './step.ts';

/** What the numbers of a pixel mean: the matrix by its name in ITU-T H.273, and the range. */
export interface Sampling {
  readonly matrix: string;
  readonly range: 'limited' | 'full';
}

/** Another frame size, another meaning of the pixels, or both. */
export interface Scale {
  readonly step: 'scale';
  /** null keeps the size. */
  readonly size: FrameSize | null;
  readonly from: Sampling;
  /** `rgb` is full-range RGB. */
  readonly to: Sampling | 'rgb';
}

/** The comparison scales both sides by itself. */
export const scale: StepDefinition = { isInReference: false };
