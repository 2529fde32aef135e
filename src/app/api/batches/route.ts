import { batchRequestSchema } from '../../../contract/batch.ts';
import { askBatch, listBatches } from '../../../server/batches/batches.ts';
import { measureBatch } from '../../../server/batches/measureBatch.ts';
import { planBatch } from '../../../server/batches/planBatch.ts';
import { readBody, route } from '../../../server/http.ts';

/** Hundreds of programmes, each with a recipe of its own. */
const BODY = { bytes: 8_000_000, entries: 2000 };

export const GET = route(async ({ context }) => Response.json(await listBatches(context)));

export const POST = route(async ({ context, scheduler }, request) => {
  const asked = await readBody(request, batchRequestSchema, BODY);
  const query = new URL(request.url).searchParams;
  if (query.has('dry')) {
    const plan = await planBatch(context, asked, request.signal);
    if (query.has('measure')) {
      await measureBatch(context, scheduler, plan);
      scheduler.wake();
    }
    return Response.json(plan);
  }
  const batch = await askBatch(context, asked);
  scheduler.wake();
  return Response.json(batch, { status: 201 });
});
