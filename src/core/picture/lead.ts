import type { StepDefinition } from './step.ts';

/** Frames that were read only for what goes by the frames before are left out. */
export interface Lead {
  readonly step: 'lead';
  readonly frames: number;
}

/** They are no frames of the result. */
export const lead: StepDefinition = { isInReference: true };
