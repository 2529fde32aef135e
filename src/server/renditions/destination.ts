import { constants } from 'node:fs';
import { access, copyFile, link, mkdir, readdir, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import { fileKind } from '../../core/container/containers.ts';
import { faultInName, numberName, plainName, proposeOutputName, withEnding } from '../../core/naming/outputName.ts';
import { nameFieldsOf } from '../../core/naming/nameFields.ts';
import { defaultsFor } from '../../core/naming/folderDefaults.ts';
import type { Recipe } from '../../core/recipe/recipe.ts';
import { isEncoded, pictureOf, type EncodePlan } from '../../core/plan/encodePlan.ts';
import * as statements from '../../store/statements/renditions.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';
import { readDefaults } from '../shelf/defaults.ts';
import { requireRoom, type RoomNeed } from '../rooms.ts';

/** Room asked for when nothing is known about the size. */
const LEAST_ROOM_BYTES = 1_000_000;

/** Left on the data folder's disk, for the database and all else that is kept there. */
const DATA_TO_SPARE_BYTES = 50_000_000;

/** While a size is filled, two passes lie there that may be joined, and what they are joined to; seldom more. */
const FILES_WHILE_FILLING = 3;

/** What a rendition is called after. */
export interface NameParts {
  /** Of the master: its folder may have a place of its own for renditions. */
  readonly programmePath: string;
  readonly programmeName: string;
  readonly portionName: string | null;
  readonly recipe: Pick<Recipe, 'name' | 'file'>;
  /** null has a name proposed. */
  readonly typedName: string | null;
  /** Of letters, digits, hyphens and underscores alone, as some receivers want it. */
  readonly isPlain: boolean;
}

/**
 * Decides where a rendition will be written. A typed name that is taken is refused; a proposed one gets a number.
 *
 * @throws Refusal about the name, the folder or the room in it.
 */
export async function chooseDestination(
  context: Context,
  { programmePath, programmeName, portionName, recipe, typedName, isPlain }: NameParts,
  plan: EncodePlan,
): Promise<string> {
  const folder = defaultsFor(await readDefaults(context), programmePath).output ?? context.config.outputFolder;
  await requireWritable(folder);
  await requireRoom(roomFor(context, folder, plan));
  const taken = await takenNames(context, folder);
  const picture = pictureOf(plan);
  const { extension } = fileKind(plan.container, picture !== null);
  if (typedName !== null) {
    const fault = faultInName(typedName);
    if (fault) throw new Refusal('name-unusable', fault, { field: 'name' });
    const name = withEnding(typedName, extension);
    if (taken.has(name)) {
      throw new Refusal(
        'output-exists',
        `${name} exists in the output folder already; “${firstFree(taken, name)}” is free.`,
        { field: 'name' },
      );
    }
    return path.join(folder, name);
  }
  // Swedish dates are those of ISO 8601.
  const orderedOn = context.now().toLocaleDateString('sv');
  const fields = nameFieldsOf({ programmeName, portionName, recipeName: recipe.name, orderedOn }, plan);
  const proposed = proposeOutputName(recipe.file.name, fields, extension);
  const free = isPlain ? firstFree(taken, plainName(proposed), plainName) : firstFree(taken, proposed);
  return path.join(/* turbopackIgnore: true */ folder, free);
}

/** Every file that will be written, and where: results beside the final name, sound and parts in the data folder. */
export function roomFor(context: Context, folder: string, plan: EncodePlan): RoomNeed[] {
  const { budget } = plan;
  const picture = pictureOf(plan);
  const file = budget.expected?.high ?? budget.cap ?? LEAST_ROOM_BYTES;
  const isFilled = picture !== null && isEncoded(picture) && picture.do.rate.kind === 'fill';
  return [
    { folder, bytes: file * (isFilled ? FILES_WHILE_FILLING : 1), what: 'output folder' },
    {
      folder: path.join(context.config.dataFolder, 'work'),
      // Passes that are joined are taken apart there first; the database grows there too.
      bytes: DATA_TO_SPARE_BYTES + budget.split.audio + (isFilled ? file * FILES_WHILE_FILLING : 0),
      what: 'data folder',
    },
  ];
}

/**
 * The temporary name a result is written under, in the folder it will stay in. Each runner has its own: two that take
 * each other for dead must not write into one file.
 */
export function temporaryPath(finalPath: string, renditionId: string, runner: string, part: number): string {
  return path.join(path.dirname(finalPath), `${prefixOf(renditionId)}${runner}-${part}.partial`);
}

/** Removes all temporary names of a rendition but those that are kept; a result that was given its name stays. */
export async function removeTemporary(
  finalPath: string,
  renditionId: string,
  kept: readonly string[] = [],
): Promise<void> {
  const folder = path.dirname(finalPath);
  for (const name of await readdir(folder).catch(() => [])) {
    const file = path.join(folder, name);
    if (name.startsWith(prefixOf(renditionId)) && !kept.includes(file)) await rm(file, { force: true });
  }
}

/**
 * Takes the name back from a finished file whose attempt died before it was recorded: it shares its inode with the
 * temporary one.
 */
export async function withdrawUnrecorded(finalPath: string, renditionId: string): Promise<void> {
  const folder = path.dirname(finalPath);
  const finished = await stat(finalPath).catch(() => null);
  if (!finished) return;
  for (const name of await readdir(folder).catch(() => [])) {
    if (!name.startsWith(prefixOf(renditionId))) continue;
    const leftover = await stat(path.join(folder, name)).catch(() => null);
    if (leftover?.ino === finished.ino) await rm(finalPath, { force: true });
  }
}

function prefixOf(renditionId: string): string {
  return `.linstock-${renditionId}-`;
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

async function requireWritable(folder: string): Promise<void> {
  try {
    await mkdir(folder, { recursive: true });
    await access(folder, constants.W_OK);
  } catch (error) {
    const code = (error as NodeJS.ErrnoException).code;
    const reason =
      code === 'EEXIST' || code === 'ENOTDIR'
        ? 'is a file, or lies in one'
        : code === 'ENOENT'
          ? 'cannot be made'
          : 'cannot be written to';
    throw new Refusal(
      'destination-read-only',
      `The output folder ${folder} ${reason}; change that, or choose another folder in Settings.`,
      { cause: error },
    );
  }
}

/** Names in the folder that files have, or that renditions on their way will have; all at once. */
async function takenNames(context: Context, folder: string): Promise<Set<string>> {
  const prefix = folder.endsWith(path.sep) ? folder : `${folder}${path.sep}`;
  const [files, rows] = await Promise.all([
    readdir(folder),
    context.database.query<{ path: string }>(statements.TAKEN_PATHS, [prefix]),
  ]);
  return new Set([...files, ...rows.map((row) => path.basename(row.path))]);
}

function firstFree(taken: ReadonlySet<string>, name: string, write = (one: string) => one): string {
  for (let number = 1; ; number += 1) {
    const candidate = number === 1 ? name : write(numberName(name, number));
    if (!taken.has(candidate)) return candidate;
  }
}
