import { mkdir, stat, statfs } from 'node:fs/promises';
import { Refusal } from './refusal.ts';

/** Files that are going to be written to a folder. */
export interface RoomNeed {
  readonly folder: string;
  readonly bytes: number;
  /** As it reads after “The”: `output folder`. */
  readonly what: string;
}

/** Bytes that are free where a folder lies; null where that cannot be told. */
export async function freeRoom(folder: string): Promise<number | null> {
  const found = await statfs(folder).catch(() => null);
  return found && found.bavail * found.bsize;
}

/**
 * Makes sure that there is room for everything that will be written; folders on one disk share what it has.
 *
 * @throws Refusal `destination-full`, naming the folder.
 */
export async function requireRoom(needs: readonly RoomNeed[]): Promise<void> {
  const asked = new Map<number, number>();
  for (const { folder, bytes, what } of needs) {
    await mkdir(folder, { recursive: true });
    const [{ dev }, { bavail, bsize }] = await Promise.all([stat(folder), statfs(folder)]);
    const together = (asked.get(dev) ?? 0) + bytes;
    asked.set(dev, together);
    const free = bavail * bsize;
    if (free < together) {
      throw new Refusal(
        'destination-full',
        `The ${what} ${folder} has room for ${free.toLocaleString('en')} bytes and this needs about ${together.toLocaleString('en')}; free some space, or choose another folder in Settings.`,
      );
    }
  }
}
