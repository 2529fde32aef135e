import { Refusal } from '../refusal.ts';

/** What is known of a request before anything of it is used. */
export interface RequestLine {
  readonly method: string;
  readonly url: string;
  readonly host: string | undefined;
  readonly origin: string | undefined;
  /** `Sec-Fetch-Site`, `-Mode` and `-Dest`, where the browser sends them. */
  readonly fetchSite: string | undefined;
  readonly fetchMode: string | undefined;
  readonly fetchDestination: string | undefined;
}

const METHODS = ['GET', 'HEAD', 'POST', 'PUT', 'PATCH', 'DELETE', 'OPTIONS'];

/** Longer addresses are nobody's. */
const LONGEST_URL = 8192;

/** Endpoints of the framework that nothing here uses. */
const UNUSED = ['/_next/image', '/_next/data', '/_next/webpack-hmr'];

/**
 * Decides whether a request is answered at all, before any route sees it: by the name it was sent to, by the site it
 * comes from, and by its form.
 *
 * @returns The refusal, or null for one that may go on.
 */
export function judgeRequest(line: RequestLine, isHost: (host: string | undefined) => boolean): Refusal | null {
  if (!isHost(line.host)) {
    return new Refusal(
      'host-unknown',
      `This server does not answer to the name “${(line.host ?? '').slice(0, 100)}”. If it is one of its names, add it to LINSTOCK_HOSTS.`,
    );
  }
  if (comesFromElsewhere(line)) {
    return new Refusal('other-site', 'Requests from pages of other sites are not answered.');
  }
  if (!METHODS.includes(line.method)) {
    return new Refusal('method-unknown', `There is no method ${line.method.slice(0, 40)} here; see docs/http.md.`);
  }
  const address = pathOf(line.url);
  if (address === null) {
    return new Refusal('address-unreadable', 'The address is too long or not valid UTF-8 in percent encoding.');
  }
  if (UNUSED.some((one) => address === one || address.startsWith(`${one}/`))) {
    return new Refusal('not-found', 'There is nothing at this address.');
  }
  if (!address.startsWith('/api/') && line.method !== 'GET' && line.method !== 'HEAD') {
    return new Refusal('method-unknown', 'Pages are only read; what changes something is under /api.');
  }
  return null;
}

/** Following a link to a page is fine; reading data, or changing it, from another site's page is not. */
function comesFromElsewhere({
  url,
  method,
  host,
  origin,
  fetchSite,
  fetchMode,
  fetchDestination,
}: RequestLine): boolean {
  if (origin !== undefined && origin !== `http://${host}` && origin !== `https://${host}`) return true;
  if (fetchSite === undefined || fetchSite === 'same-origin' || fetchSite === 'none') return false;
  const isVisit = method === 'GET' && fetchMode === 'navigate' && fetchDestination === 'document';
  return !isVisit || url.startsWith('/api');
}

/** @returns null for an address that cannot be decoded. */
function pathOf(url: string): string | null {
  if (url.length > LONGEST_URL || !url.startsWith('/')) return null;
  try {
    return decodeURIComponent(url.split('?', 1)[0] ?? '');
  } catch {
    return null;
  }
}
