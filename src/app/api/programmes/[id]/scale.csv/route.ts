import { scaleRequestSchema } from '../../../../../contract/trial.ts';
import { readQuestion, route } from '../../../../../server/http.ts';
import { scaleCsv } from '../../../../../server/trials/scale.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, request, { id }) => {
  const measure = new URL(request.url).searchParams.get('measure') ?? undefined;
  return new Response(await scaleCsv(context, id, readQuestion(scaleRequestSchema, { measure })), {
    headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="scale.csv"' },
  });
});
