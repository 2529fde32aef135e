import type { Edges } from '../geometry/preparation.ts';
import type { StepDefinition } from './step.ts';

/** Rows and columns are cut off along the sides. */
export interface Crop {
  readonly step: 'crop';
  readonly edges: Edges;
}

export const crop: StepDefinition = { isInReference: true };
