import { constants } from 'node:fs';
import { access, copyFile, link, mkdir, readdir, rm, stat, statfs } from 'node:fs/promises';
import path from 'node:path';
import { faultInName, numberName, proposeOutputName, withEnding } from '../../core/naming/outputName.ts';
import type { EncodePlan } from '../../core/rate/encodePlan.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';

/** Room asked for when nothing is known about the size. */
const LEAST_ROOM_BYTES = 1_000_000;

/** While a size is filled, two passes lie there that may be joined, and what they are joined to; seldom more. */
const FILES_WHILE_FILLING = 3;

/**
 * Decides where a rendition will be written. A typed name that is taken is refused; a proposed one gets a number.
 *
 * @throws Refusal about the name, the folder or the room in it.
 */
export async function chooseDestination(
  context: Context,
  programmeName: string,
  plan: EncodePlan,
  typedName: string | null,
): Promise<string> {
  const folder = context.config.outputFolder;
  await requireWritable(folder, roomFor(plan));
  if (typedName !== null) {
    const fault = faultInName(typedName);
    if (fault) throw new Refusal('name-unusable', fault, { field: 'name' });
    const name = withEnding(typedName, plan.picture ? '.mp4' : '.m4a');
    if (await isTaken(context, path.join(folder, name))) {
      const free = await findFreeName(context, folder, name);
      throw new Refusal('output-exists', `${name} exists in the output folder already; “${free}” is free.`, {
        field: 'name',
      });
    }
    return path.join(folder, name);
  }
  const picture = plan.picture && plan.video ? { size: plan.picture.size, codec: plan.video.codec } : null;
  return path.join(
    /* turbopackIgnore: true */ folder,
    await findFreeName(context, folder, proposeOutputName(programmeName, picture)),
  );
}

/** The temporary name a result is written under, in the folder it will stay in. */
export function temporaryPath(finalPath: string, renditionId: string, attempt: number, part: number): string {
  return path.join(path.dirname(finalPath), `.linstock-${renditionId}-${attempt}-${part}.partial`);
}

/** Removes the temporary names of one attempt; a result that was given its name stays. */
export async function removeTemporary(finalPath: string, renditionId: string, attempt: number): Promise<void> {
  const folder = path.dirname(finalPath);
  for (const name of await readdir(folder).catch(() => [])) {
    if (name.startsWith(`.linstock-${renditionId}-${attempt}-`)) await rm(path.join(folder, name), { force: true });
  }
}

/**
 * Removes what earlier attempts of a rendition left: temporary files, and a finished file whose attempt died before
 * it was recorded (it shares its inode with the temporary one).
 */
export async function sweepLeftovers(finalPath: string, renditionId: string): Promise<void> {
  const folder = path.dirname(finalPath);
  const names = await readdir(folder).catch(() => []);
  for (const name of names.filter((one) => one.startsWith(`.linstock-${renditionId}-`))) {
    const leftover = await stat(path.join(folder, name)).catch(() => null);
    const finished = await stat(finalPath).catch(() => null);
    if (leftover && finished && leftover.ino === finished.ino) await rm(finalPath, { force: true });
    await rm(path.join(folder, name), { force: true });
  }
}

/**
 * Gives a checked file its name without ever replacing another: a name that was taken meanwhile gets a number.
 * The temporary name stays until the record is written.
 *
 * @returns The path it has now.
 */
export async function publishFile(temporary: string, wanted: string): Promise<string> {
  for (let number = 1; ; number += 1) {
    const target = number === 1 ? wanted : path.join(path.dirname(wanted), numberName(path.basename(wanted), number));
    try {
      await link(temporary, target).catch((error: NodeJS.ErrnoException) => {
        // Some file systems know no links; an exclusive copy keeps the promise.
        if (error.code !== 'EPERM' && error.code !== 'ENOTSUP') throw error;
        return copyFile(temporary, target, constants.COPYFILE_EXCL);
      });
      return target;
    } catch (error) {
      if ((error as NodeJS.ErrnoException).code !== 'EEXIST') throw error;
    }
  }
}

/** Bytes that must be free for an order to be taken. */
function roomFor({ budget, video }: EncodePlan): number {
  const files = video?.rate.kind === 'fill' ? FILES_WHILE_FILLING : 1;
  return (budget.expected?.likely ?? LEAST_ROOM_BYTES) * files;
}

async function requireWritable(folder: string, bytes: number): Promise<void> {
  try {
    await mkdir(folder, { recursive: true });
    await access(folder, constants.W_OK);
  } catch (error) {
    throw new Refusal(
      'destination-read-only',
      `The output folder ${folder} cannot be written to; change its permissions or set LINSTOCK_OUTPUT to another.`,
      { cause: error },
    );
  }
  const room = await statfs(folder);
  const free = room.bavail * room.bsize;
  if (free < bytes) {
    throw new Refusal(
      'destination-full',
      `The output folder has ${free.toLocaleString('en')} bytes left and this needs about ${bytes.toLocaleString('en')}; free some space or set LINSTOCK_OUTPUT to another folder.`,
    );
  }
}

async function findFreeName(context: Context, folder: string, name: string): Promise<string> {
  for (let number = 1; ; number += 1) {
    const candidate = number === 1 ? name : numberName(name, number);
    if (!(await isTaken(context, path.join(folder, candidate)))) return candidate;
  }
}

async function isTaken(context: Context, file: string): Promise<boolean> {
  const exists = await stat(file).then(
    () => true,
    () => false,
  );
  return exists || (await context.database.query(statements.PATH_IS_TAKEN, [file])).length > 0;
}
