import { readCaptionFile } from '../../../../../../server/captions/captions.ts';
import { dispositionOf } from '../../../../../../server/files/disposition.ts';
import { route } from '../../../../../../server/http.ts';

interface Params {
  readonly id: string;
  readonly number: string;
}

export const GET = route<Params>(async ({ context }, request, { id, number }) => {
  const { name, content } = await readCaptionFile(context, id, Number(number), request.signal);
  return new Response(content, {
    headers: { 'content-type': 'text/vtt; charset=utf-8', 'content-disposition': dispositionOf('attachment', name) },
  });
});
