import { fileChangeSchema } from '../../../../../contract/ledger.ts';
import { readBody, route } from '../../../../../server/http.ts';
import { deleteFile, renameFile } from '../../../../../server/ledger/ledger.ts';

interface Params {
  readonly id: string;
}

export const PATCH = route<Params>(async ({ context }, request, { id }) => {
  const { name } = await readBody(request, fileChangeSchema);
  return Response.json(await renameFile(context, id, name));
});

export const DELETE = route<Params>(async ({ context }, _request, { id }) =>
  Response.json(await deleteFile(context, id)),
);
