import { askAgain, getBatch } from '../../../../../server/batches/batches.ts';
import { route } from '../../../../../server/http.ts';

interface Params {
  readonly id: string;
}

export const POST = route<Params>(async ({ context, scheduler }, _request, { id }) => {
  await getBatch(context, id);
  const batch = await askAgain(context, id);
  scheduler.wake();
  return Response.json(batch);
});
