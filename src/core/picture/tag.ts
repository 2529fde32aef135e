import type { Colour } from '../programme/colour.ts';
import type { StepDefinition } from './step.ts';

/** Frames say what their colour is; the range is limited. */
export interface Tag {
  readonly step: 'tag';
  readonly colour: Colour;
}

export const tag: StepDefinition = { isInReference: false };
