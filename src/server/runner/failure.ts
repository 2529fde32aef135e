import type { Check, FillView, Problem } from '../../contract/views.ts';

/** A rendition that cannot become what was ordered, with what is known of it. */
export class RenditionFailure extends Error {
  readonly problem: Problem;
  readonly details: { readonly fill?: FillView; readonly checks?: readonly Check[] };

  constructor(problem: Problem, details: RenditionFailure['details'] = {}) {
    super(problem.message);
    this.name = 'RenditionFailure';
    this.problem = problem;
    this.details = details;
  }
}
