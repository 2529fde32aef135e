import path from 'node:path';
import { stat } from 'node:fs/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import send from 'send';
import { toRefusal } from '../../../../server/http.ts';
import { Refusal } from '../../../../server/refusal.ts';
import { findRendition } from '../../../../server/renditions/renditions.ts';
import { theApplication } from '../../../../server/theApplication.ts';

/** The stream is answered by hand; Next must not warn that nothing was returned. */
export const config = { api: { externalResolver: true } };

/** The bytes of a result, with ranges. Here and not beside the other routes, since those drop the length. */
export default async function handler(request: NextApiRequest, response: NextApiResponse): Promise<void> {
  try {
    if (request.method !== 'GET' && request.method !== 'HEAD') {
      response.setHeader('allow', 'GET, HEAD');
      response.status(405).end();
      return;
    }
    const { context } = theApplication();
    const rendition = await findRendition(context, String(request.query['id']));
    const isThere = rendition.has_file && (await stat(rendition.path).catch(() => null)) !== null;
    if (!isThere)
      throw new Refusal(
        'file-not-there',
        `There is no file at ${rendition.path}; it is made once the rendition is done, and may have been moved since.`,
      );
    const name = encodeURIComponent(path.basename(rendition.path));
    const disposition = request.query['download'] === undefined ? 'inline' : 'attachment';
    response.setHeader('content-disposition', `${disposition}; filename*=UTF-8''${name}`);
    response.setHeader('content-type', rendition.plan.picture ? 'video/mp4' : 'audio/mp4');
    send(request, path.basename(rendition.path), {
      root: path.dirname(rendition.path),
      dotfiles: 'allow',
      cacheControl: false,
    })
      .on('error', () => response.status(410).end())
      .pipe(response);
  } catch (error) {
    const refusal = toRefusal(error);
    response.status(refusal.status).json(refusal.toBody());
  }
}
