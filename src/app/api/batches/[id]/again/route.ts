import { againRequestSchema } from '../../../../../contract/batch.ts';
import { askAgain, getBatch } from '../../../../../server/batches/batches.ts';
import { readQuestion, route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const POST = route<Params>(async ({ context, scheduler }, request, { id }) => {
  const query = new URL(request.url).searchParams;
  const { row } = readQuestion(againRequestSchema, { row: query.has('row') ? Number(query.get('row')) : null });
  await getBatch(context, id);
  const batch = await askAgain(context, id, row);
  scheduler.wake();
  return Response.json(batch);
});
