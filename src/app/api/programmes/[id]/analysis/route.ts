import { retryAnalysis, viewAnalysis } from '../../../../../server/analysis/analyses.ts';
import { route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async (application, _request, { id }) =>
  Response.json(await viewAnalysis(application, id)),
);

/** Goes on with an analysis that failed. */
export const POST = route<Params>(async (application, _request, { id }) =>
  Response.json(await retryAnalysis(application, id), { status: 202 }),
);
