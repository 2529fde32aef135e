import { scaleRequestSchema } from '../../../../../contract/trial.ts';
import { readQuestion, route } from '../../../../../server/http.ts';
import { viewScale } from '../../../../../server/trials/scale.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, request, { id }) => {
  const asked = Object.fromEntries(new URL(request.url).searchParams);
  return Response.json(await viewScale(context, id, readQuestion(scaleRequestSchema, asked)));
});
