import { workingOrderSchema } from '../../../../../contract/recipe.ts';
import { pageOf, readBody, route } from '../../../../../server/http.ts';
import { keepWorkingOrder, readWorkingOrder } from '../../../../../server/orders/workingOrders.ts';

interface Params {
  readonly id: string;
}

export const GET = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await readWorkingOrder(context, id)),
);

export const PUT = route<Params>(async ({ context }, request, { id }) => {
  const order = await readBody(request, workingOrderSchema);
  return Response.json(await keepWorkingOrder(context, id, order, pageOf(request)));
});
