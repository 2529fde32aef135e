import type { Schema } from 'yup';
import { parseWith } from '../contract/strictObject.ts';
import { isEngineError } from '../engine/engineError.ts';
import type { Application } from './application.ts';
import { readJson, requireText, USUAL_BODY } from './guard/readJson.ts';
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
      const params = await context.params;
      requireReadableAddress(request, params);
      return await handler(theApplication(), request, params);
    } catch (error) {
      // Whoever asked has gone; nobody reads the answer, and nothing went wrong.
      if (request.signal.aborted) return new Response(null, { status: 499 });
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
 * @throws Refusal `body-too-large`, `body-not-json` or `field-wrong`.
 */
export async function readBody<Value>(request: Request, schema: Schema<Value>, limits = USUAL_BODY): Promise<Value> {
  return readQuestion(schema, await readJson(request, limits));
}

/**
 * Checks what an address asks for.
 *
 * @throws Refusal `field-wrong`.
 */
export function readQuestion<Value>(schema: Schema<Value>, question: unknown): Value {
  const parsed = parseWith(schema, question);
  if (!parsed.ok) throw refuseFields(parsed.faults);
  return parsed.value;
}

/** Which page asks, so that it is not told of its own changes; null for scripts. */
export function pageOf(request: Request): string | null {
  return request.headers.get('linstock-page')?.slice(0, 64) ?? null;
}

/** Ids and questions in an address are text that a database can be asked about. */
function requireReadableAddress(request: Request, params: unknown): void {
  for (const value of Object.values(params ?? {})) for (const part of [value].flat()) requireText(String(part));
  for (const [key, value] of new URL(request.url).searchParams) [key, value].forEach(requireText);
}

/** Whatever was thrown, as an answer. */
export function toRefusal(error: unknown): Refusal {
  if (isRefusal(error)) return error;
  if (isEngineError(error) && isRefusalCode(error.code)) {
    return new Refusal(error.code, error.message, { cause: error });
  }
  if (isDiskFull(error)) {
    const message =
      'The disk of the data folder is full, so this could not be done; nothing that was recorded before is lost. Free some space on it and try again.';
    return new Refusal('disk-full', message, { cause: error });
  }
  return new Refusal('internal-error', 'Something unexpected went wrong; the log has the details.', { cause: error });
}

/** What PostgreSQL says when it has no room (SQLSTATE 53100), and what the file system says. */
const DISK_FULL = new Set(['53100', 'ENOSPC', 'EDQUOT']);

function isDiskFull(error: unknown): boolean {
  for (let one = error; one instanceof Error; one = one.cause) {
    if (DISK_FULL.has((one as NodeJS.ErrnoException).code ?? '')) return true;
  }
  return false;
}
