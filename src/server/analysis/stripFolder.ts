import path from 'node:path';

/** Where all small pictures of a programme lie. */
export function stripsOf(dataFolder: string, programmeId: string): string {
  return path.join(dataFolder, 'cache', 'strips', programmeId);
}

/** Where the small pictures of a master lie, one file each, numbered from 0: another master's are never shown for its. */
export function stripFolder(
  dataFolder: string,
  { id, fingerprint }: { readonly id: string; readonly fingerprint: string | null },
): string {
  return path.join(stripsOf(dataFolder, id), fingerprint ?? '');
}
