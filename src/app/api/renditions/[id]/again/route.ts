import { route } from '../../../../../server/http.ts';
import { orderAgain } from '../../../../../server/renditions/renditions.ts';

interface Params {
  readonly id: string;
}

export const POST = route<Params>(async ({ context, scheduler }, _request, { id }) => {
  const rendition = await orderAgain(context, id);
  scheduler.wake();
  return Response.json(rendition, { status: 201 });
});
