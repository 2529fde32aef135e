/** Names and addresses that always mean this machine. */
const LOOPBACK = /^(?:localhost|127(?:\.\d{1,3}){3}|\[::1\])$/;

/**
 * Says which names the server answers to. A page of another site whose name was made to resolve to this machine
 * (name rebinding) sends that name as `Host`, and is told apart by it alone.
 *
 * @param configured - The address listened on, and further names, without ports.
 * @returns Whether a `Host` header, with or without a port, is one of them.
 */
export function createHostList(configured: readonly string[]): (header: string | undefined) => boolean {
  const known = new Set(configured.map(normalise));
  return (header) => {
    const name = header === undefined ? null : nameOf(header);
    return name !== null && (LOOPBACK.test(name) || known.has(name));
  };
}

function normalise(host: string): string {
  const lower = host.trim().toLowerCase().replace(/\.$/, '');
  return lower.includes(':') && !lower.startsWith('[') ? `[${lower}]` : lower;
}

/** @returns null for what is no name with at most a port. */
function nameOf(header: string): string | null {
  const match = /^(\[[0-9a-f:.]+\]|[a-z0-9._-]+)(?::\d{1,5})?$/i.exec(header);
  return match?.[1] === undefined ? null : normalise(match[1]);
}
