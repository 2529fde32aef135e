import { ledgerRequestSchema } from '../../../contract/ledger.ts';
import { readQuestion, route } from '../../../server/http.ts';
import { viewLedger } from '../../../server/ledger/ledger.ts';

export const GET = route(async ({ context }, request) => {
  const query = new URL(request.url).searchParams;
  const given = Object.fromEntries(query);
  const numbers = Object.fromEntries(
    ['after', 'limit'].flatMap((name) => (query.has(name) ? [[name, Number(query.get(name))]] : [])),
  );
  return Response.json(await viewLedger(context, readQuestion(ledgerRequestSchema, { ...given, ...numbers })));
});
