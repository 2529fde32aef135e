import { scaleRequestSchema } from '../../../../../contract/trial.ts';
import { readQuestion, route } from '../../../../../server/http.ts';
import { viewScale } from '../../../../../server/trials/scale.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, request, { id }) => {
  const query = new URL(request.url).searchParams;
  const capBytes = query.get('capBytes');
  const asked = readQuestion(scaleRequestSchema, {
    ...(capBytes ? { capBytes: Number(capBytes) } : {}),
    measure: query.get('measure') ?? undefined,
  });
  return Response.json(await viewScale(context, id, asked));
});
