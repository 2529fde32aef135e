import { route } from '../../../../../server/http.ts';
import { qualityCsv } from '../../../../../server/renditions/frameQualities.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => {
  const csv = await qualityCsv(context, id);
  return new Response(csv, { headers: { 'content-type': 'text/csv; charset=utf-8' } });
});
