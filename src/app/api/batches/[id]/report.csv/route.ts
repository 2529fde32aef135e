import { getBatch } from '../../../../../server/batches/batches.ts';
import { writeReport } from '../../../../../server/batches/report.ts';
import { route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) => {
  const batch = await getBatch(context, id);
  return new Response(writeReport(batch), {
    headers: { 'content-type': 'text/csv; charset=utf-8', 'content-disposition': 'attachment; filename="batch.csv"' },
  });
});
