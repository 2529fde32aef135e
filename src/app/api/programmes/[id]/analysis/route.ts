import { retryAnalysis, viewAnalysis } from '../../../../../server/analysis/analyses.ts';
import { route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context, analyses }, _request, { id }) =>
  Response.json(await viewAnalysis(context, analyses, id)),
);

/** Goes on with an analysis that failed. */
export const POST = route<Params>(async ({ context, analyses }, _request, { id }) =>
  Response.json(await retryAnalysis(context, analyses, id), { status: 202 }),
);
