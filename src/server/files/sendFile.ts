import { finished } from 'node:stream/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import send from 'send';
import type { Application } from '../application.ts';
import { requireText } from '../guard/readJson.ts';
import { toRefusal } from '../http.ts';
import { Refusal } from '../refusal.ts';
import { theApplication } from '../theApplication.ts';
import { dispositionOf } from './disposition.ts';
import type { FileAnswer } from './fileAnswer.ts';

/**
 * Makes a handler that answers the bytes of a file, with ranges and length; `?download` asks for it as an attachment.
 */
export function fileRoute(find: (application: Application, id: string) => Promise<FileAnswer>) {
  return async (request: NextApiRequest, response: NextApiResponse): Promise<void> => {
    try {
      if (request.method !== 'GET' && request.method !== 'HEAD') {
        response.setHeader('allow', 'GET, HEAD');
        throw new Refusal('method-unknown', `A file is only read; this address does not take ${request.method ?? ''}.`);
      }
      const id = String(request.query['id']);
      requireText(id);
      const isDownload = request.query['download'] !== undefined;
      await answer(request, response, await find(theApplication(), id), isDownload);
    } catch (error) {
      const refusal = toRefusal(error);
      if (response.headersSent) response.destroy();
      else response.status(refusal.status).json(refusal.toBody());
    }
  };
}

async function answer(
  request: NextApiRequest,
  response: NextApiResponse,
  { file, name, type }: FileAnswer,
  isDownload: boolean,
): Promise<void> {
  try {
    response.setHeader('content-disposition', dispositionOf(isDownload ? 'attachment' : 'inline', name));
    response.setHeader('content-type', type);
    // The path of the open file itself: the package decodes what it is given, and a name may hold anything.
    send(request, file.path, { dotfiles: 'allow', cacheControl: false })
      .on('error', () => response.status(410).end())
      .pipe(response);
    // A reader that goes away in the middle is no failure.
    await finished(response).catch(() => undefined);
  } finally {
    await file.close();
  }
}
