import type { Schema } from 'yup';
import type { ShelfChange } from '../../contract/shelf.ts';
import type { ShelfItem } from '../../core/shelf/shelf.ts';
import { readBody, route } from '../http.ts';
import type { Fresh, Given, Shelf } from './shelf.ts';

interface Params {
  readonly id: string;
}

/** The handlers of a shelf as a whole. */
export function shelfRoutes<Item extends ShelfItem>(shelf: Shelf<Item>, fresh: Schema<Fresh<Item>>) {
  return {
    GET: route(async ({ context }) => Response.json(await shelf.list(context))),
    POST: route(async ({ context }, request) =>
      Response.json(await shelf.put(context, await readBody(request, fresh)), { status: 201 }),
    ),
  };
}

/** The handlers of one thing on a shelf. */
export function shelfItemRoutes<Item extends ShelfItem>(
  shelf: Shelf<Item>,
  change: Schema<ShelfChange & Given<Fresh<Item>>>,
) {
  return {
    GET: route<Params>(async ({ context }, _request, { id }) => Response.json(await shelf.find(context, id))),
    PATCH: route<Params>(async ({ context }, request, { id }) =>
      Response.json(await shelf.change(context, id, await readBody(request, change))),
    ),
    DELETE: route<Params>(async ({ context }, _request, { id }) => {
      await shelf.remove(context, id);
      return new Response(null, { status: 204 });
    }),
  };
}
