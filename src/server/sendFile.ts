import path from 'node:path';
import { stat } from 'node:fs/promises';
import type { NextApiRequest, NextApiResponse } from 'next';
import send from 'send';
import type { Application } from './application.ts';
import type { FileAnswer } from './fileAnswer.ts';
import { toRefusal } from './http.ts';
import { Refusal } from './refusal.ts';
import { theApplication } from './theApplication.ts';

/**
 * Makes a handler that answers the bytes of a file, with ranges and length; `?download` asks for it as an attachment.
 */
export function fileRoute(find: (application: Application, id: string) => Promise<FileAnswer>) {
  return async (request: NextApiRequest, response: NextApiResponse): Promise<void> => {
    try {
      if (request.method !== 'GET' && request.method !== 'HEAD') {
        response.setHeader('allow', 'GET, HEAD');
        response.status(405).end();
        return;
      }
      const file = await find(theApplication(), String(request.query['id']));
      if ((await stat(file.path).catch(() => null)) === null) throw new Refusal('file-not-there', file.missing);
      const name = encodeURIComponent(path.basename(file.path));
      const disposition = request.query['download'] === undefined ? 'inline' : 'attachment';
      response.setHeader('content-disposition', `${disposition}; filename*=UTF-8''${name}`);
      response.setHeader('content-type', file.type);
      send(request, path.basename(file.path), {
        root: path.dirname(file.path),
        dotfiles: 'allow',
        cacheControl: false,
      })
        .on('error', () => response.status(410).end())
        .pipe(response);
    } catch (error) {
      const refusal = toRefusal(error);
      response.status(refusal.status).json(refusal.toBody());
    }
  };
}
