import path from 'node:path';

/** Where the small pictures of a programme lie, one file each, numbered from 0. */
export function stripFolder(dataFolder: string, programmeId: string): string {
  return path.join(dataFolder, 'cache', 'strips', programmeId);
}
