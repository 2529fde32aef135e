/**
 * Headers that go with every answer, of pages, files, events and errors alike.
 *
 * @param nonce - Of this answer; the framework gives it to the scripts it writes into a page, so that no other script
 *   in a page is run. Styles are free: components set sizes and places as attributes.
 */
export function answerHeaders(nonce: string): Readonly<Record<string, string>> {
  return {
    'content-security-policy': contentPolicy(nonce),
    'x-content-type-options': 'nosniff',
    'x-frame-options': 'DENY',
    'referrer-policy': 'no-referrer',
    'cross-origin-resource-policy': 'same-origin',
    'cross-origin-opener-policy': 'same-origin',
    'permissions-policy': 'camera=(), microphone=(), geolocation=(), payment=(), usb=()',
  };
}

/** The policy by itself: the framework reads the nonce out of it. */
export function contentPolicy(nonce: string): string {
  return [
    "default-src 'none'",
    `script-src 'self' 'nonce-${nonce}'`,
    "style-src 'self' 'unsafe-inline'",
    "img-src 'self' blob: data:",
    "media-src 'self' blob:",
    "font-src 'self'",
    "connect-src 'self'",
    "worker-src 'self' blob:",
    "manifest-src 'self'",
    "base-uri 'none'",
    "form-action 'self'",
    "frame-ancestors 'none'",
  ].join('; ');
}
