/** How a file that is answered with is to be treated, and what it is called (RFC 6266, RFC 8187). */
export function dispositionOf(kind: 'attachment' | 'inline', name: string): string {
  return `${kind}; filename*=UTF-8''${encodeURIComponent(name)}`;
}
