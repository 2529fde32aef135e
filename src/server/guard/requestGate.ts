import { randomBytes } from 'node:crypto';
import type { IncomingMessage, RequestListener, ServerResponse } from 'node:http';
import type { Config } from '../config.ts';
import { Refusal } from '../refusal.ts';
import { answerHeaders, contentPolicy } from './answerHeaders.ts';
import { createHostList } from './hosts.ts';
import { judgeRequest } from './judgeRequest.ts';
import { NONCE_HEADER } from './nonce.ts';

/**
 * Stands before everything the server answers: refuses what may not come in, and puts the headers on that every answer
 * has.
 */
export function createRequestGate(config: Pick<Config, 'host' | 'hosts'>, handle: RequestListener): RequestListener {
  const isHost = createHostList([config.host, ...config.hosts]);
  return (request, response) => {
    const nonce = randomBytes(16).toString('base64');
    for (const [name, value] of Object.entries(answerHeaders(nonce))) response.setHeader(name, value);
    const refusal = judgeRequest(lineOf(request), isHost);
    if (refusal) {
      refuse(request, response, refusal);
      return;
    }
    request.headers['content-security-policy'] = contentPolicy(nonce);
    request.headers[NONCE_HEADER] = nonce;
    explainWrongMethod(request, response);
    handle(request, response);
  };
}

function lineOf(request: IncomingMessage): Parameters<typeof judgeRequest>[0] {
  const one = (name: string) => {
    const value = request.headers[name];
    return Array.isArray(value) ? value[0] : value;
  };
  return {
    method: request.method ?? '',
    url: request.url ?? '',
    host: request.headers.host,
    origin: request.headers.origin,
    fetchSite: one('sec-fetch-site'),
    fetchMode: one('sec-fetch-mode'),
    fetchDestination: one('sec-fetch-dest'),
  };
}

/** What is still on its way in is not waited for. */
function refuse(request: IncomingMessage, response: ServerResponse, refusal: Refusal): void {
  const body = JSON.stringify(refusal.toBody());
  response.writeHead(refusal.status, {
    'content-type': 'application/json',
    'content-length': Buffer.byteLength(body),
    connection: 'close',
  });
  response.end(request.method === 'HEAD' ? undefined : body);
  request.unpipe();
  request.resume();
}

/** The framework answers a method that a route does not know with nothing at all. */
function explainWrongMethod(request: IncomingMessage, response: ServerResponse): void {
  const begin = response.writeHead.bind(response) as (...given: unknown[]) => ServerResponse;
  const end = response.end.bind(response) as (...given: unknown[]) => ServerResponse;
  let isBare = false;
  response.writeHead = ((...given: unknown[]) => {
    isBare = given[0] === 405 && !response.hasHeader('content-type') && request.method !== 'HEAD';
    if (isBare) {
      response.removeHeader('content-length');
      response.setHeader('content-type', 'application/json');
    }
    return begin(...given);
  }) as typeof response.writeHead;
  response.end = ((...given: unknown[]) => {
    if (!response.headersSent) response.writeHead(response.statusCode);
    if (!isBare) return end(...given);
    const refusal = new Refusal('method-unknown', `This address does not take ${request.method}; see docs/http.md.`);
    return end(JSON.stringify(refusal.toBody()));
  }) as typeof response.end;
}
