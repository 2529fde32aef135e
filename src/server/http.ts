import type { Schema } from 'yup';
import { parseWith } from '../contract/strictObject.ts';
import { isEngineError } from '../engine/engineError.ts';
import type { Application } from './application.ts';
import { isRefusalCode, Refusal, refuseFields, isRefusal } from './refusal.ts';
import { theApplication } from './theApplication.ts';

type Handler<Params> = (application: Application, request: Request, params: Params) => Promise<Response> | Response;

interface RouteContext<Params> {
  readonly params: Promise<Params>;
}

/**
 * Makes a route handler: the application in, every refusal out as the one error shape.
 */
export function route<Params = Record<string, never>>(handler: Handler<Params>) {
  return async (request: Request, context: RouteContext<Params>): Promise<Response> => {
    try {
      refuseOtherSites(request);
      return await handler(theApplication(), request, await context.params);
    } catch (error) {
      const refusal = toRefusal(error);
      if (refusal.code === 'internal-error') {
        theApplication().context.logger.error({ err: error, url: request.url }, 'a request failed');
      }
      return Response.json(refusal.toBody(), { status: refusal.status });
    }
  };
}

/**
 * Reads and checks a JSON body.
 *
 * @throws Refusal `body-not-json` or `field-wrong`.
 */
export async function readBody<Value>(request: Request, schema: Schema): Promise<Value> {
  let json: unknown;
  try {
    json = await request.json();
  } catch (error) {
    throw new Refusal('body-not-json', 'The body is not valid JSON; send one JSON object.', { cause: error });
  }
  const parsed = parseWith<Value>(schema, json);
  if (!parsed.ok) throw refuseFields(parsed.faults);
  return parsed.value;
}

/** Whatever was thrown, as an answer. */
export function toRefusal(error: unknown): Refusal {
  if (isRefusal(error)) return error;
  if (isEngineError(error) && isRefusalCode(error.code)) {
    return new Refusal(error.code, error.message, { cause: error });
  }
  return new Refusal('internal-error', 'Something unexpected went wrong; the log has the details.', { cause: error });
}

/** A page of another site must not be able to order encodes here through its visitor's browser. */
function refuseOtherSites(request: Request): void {
  const origin = request.headers.get('origin');
  if (request.method === 'GET' || request.method === 'HEAD' || !origin) return;
  const host = request.headers.get('host');
  if (origin !== `http://${host}` && origin !== `https://${host}`) {
    throw new Refusal('other-site', 'Requests from pages of other sites are not answered.');
  }
}
