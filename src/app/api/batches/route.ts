import { batchRequestSchema } from '../../../contract/batch.ts';
import { askBatch, listBatches } from '../../../server/batches/batches.ts';
import { planBatch } from '../../../server/batches/planBatch.ts';
import { readBody, route } from '../../../server/http.ts';

/** Hundreds of programmes, each with a recipe of its own. */
const BODY = { bytes: 8_000_000, entries: 2000 };

export const GET = route(async ({ context }) => Response.json(await listBatches(context)));

export const POST = route(async ({ context, scheduler }, request) => {
  const asked = await readBody(request, batchRequestSchema, BODY);
  if (new URL(request.url).searchParams.has('dry')) return Response.json(await planBatch(context, asked));
  const batch = await askBatch(context, asked);
  scheduler.wake();
  return Response.json(batch, { status: 201 });
});
