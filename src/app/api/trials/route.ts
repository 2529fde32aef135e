import { trialRequestSchema, type TrialRequest } from '../../../contract/trial.ts';
import { readBody, route } from '../../../server/http.ts';
import { planTrial } from '../../../server/trials/planTrial.ts';
import { askTrial } from '../../../server/trials/trials.ts';

export const POST = route(async ({ context, scheduler }, request) => {
  const wanted = (await readBody(request, trialRequestSchema)) as TrialRequest;
  if (new URL(request.url).searchParams.has('dry')) return Response.json(await planTrial(context, wanted));
  return Response.json(await askTrial(context, scheduler, wanted), { status: 202 });
});
