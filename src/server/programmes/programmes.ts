import path from 'node:path';
import type { MediaListing, Problem, ProgrammeView } from '../../contract/views.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';
import { packFrameTimes } from './frameTimes.ts';
import { lookAt } from './lookAt.ts';
import { listMediaFolder, resolveMediaFile } from './mediaFolders.ts';

/** A programme as stored. */
export interface ProgrammeRow extends Record<string, unknown> {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  readonly state: 'looking' | 'ready' | 'failed';
  readonly problem: Problem | null;
  readonly facts: ProgrammeFacts;
  readonly modified_at: Date;
  readonly added_at: Date;
  readonly fingerprint: string | null;
  readonly master: ProgrammeView['master'];
}

/** Takes a master in: read, never written to. */
export async function takeIn(context: Context, typedPath: string, signal?: AbortSignal): Promise<ProgrammeView> {
  const file = await resolveMediaFile(context.config.mediaFolders, typedPath);
  const [known] = await context.database.query<ProgrammeRow>(statements.FIND_PROGRAMME_BY_PATH, [file]);
  if (known) throw alreadyIn(file);
  const look = await lookAt(context, file, signal);
  const [row] = await context.database.query<ProgrammeRow>(statements.INSERT_PROGRAMME, [
    context.newId(),
    file,
    path.basename(file),
    JSON.stringify(look.facts),
    look.modifiedAt,
    context.now(),
    look.fingerprint,
    packSpent(look.spent),
    JSON.stringify(look.raw),
    look.frameTimes && packFrameTimes(look.frameTimes),
  ]);
  // Two requests for one file may both have probed it; the second finds it taken.
  if (!row) throw alreadyIn(file);
  const programme = viewProgramme(row);
  context.events.publish({ type: 'programme', programme });
  return programme;
}

export async function listProgrammes(context: Context): Promise<ProgrammeView[]> {
  return (await context.database.query<ProgrammeRow>(statements.LIST_PROGRAMMES)).map(viewProgramme);
}

/** @throws Refusal `not-found`. */
export async function findProgramme(context: Context, id: string): Promise<ProgrammeRow> {
  const [row] = await context.database.query<ProgrammeRow>(statements.FIND_PROGRAMME, [id]);
  if (!row) throw new Refusal('not-found', `There is no programme ${id}; it may have been forgotten.`);
  return row;
}

/** Forgets a programme and its renditions' records; files stay where they are. */
export async function forgetProgramme(context: Context, id: string): Promise<void> {
  await findProgramme(context, id);
  const forgotten = await context.database.query(statements.FORGET_PROGRAMME, [id]);
  if (forgotten.length === 0) {
    throw new Refusal('programme-in-use', 'A rendition of this programme is queued or running; stop it first.');
  }
  context.events.publish({ type: 'programme-forgotten', programmeId: id });
}

/** A media folder's contents, with what is taken in already. */
export async function browseMedia(context: Context, folder: string | null): Promise<MediaListing> {
  const listing = await listMediaFolder(context.config.mediaFolders, folder);
  const programmes = await context.database.query<ProgrammeRow>(statements.LIST_PROGRAMMES);
  const idOf = new Map(programmes.map((row) => [row.path, row.id]));
  return {
    ...listing,
    entries: listing.entries.map((entry) => ({ ...entry, programmeId: idOf.get(entry.path) ?? null })),
  };
}

export function viewProgramme(row: ProgrammeRow): ProgrammeView {
  return {
    id: row.id,
    path: row.path,
    name: row.name,
    state: row.state,
    ...(row.problem ? { problem: row.problem } : {}),
    master: row.master,
    addedAt: row.added_at.toISOString(),
    ...row.facts,
  };
}

function alreadyIn(file: string): Refusal {
  return new Refusal('already-in', `${path.basename(file)} is already among the programmes.`, { field: 'path' });
}

/** Bytes of each half second as 32-bit numbers, little end first. */
export function packSpent(spent: readonly number[]): Uint8Array {
  const packed = Buffer.alloc(spent.length * 4);
  spent.forEach((bytes, step) => packed.writeUInt32LE(Math.min(bytes, 0xffff_ffff), step * 4));
  return packed;
}

/** The other way round. */
export function unpackSpent(packed: Uint8Array): number[] {
  const buffer = Buffer.from(packed);
  return Array.from({ length: buffer.length / 4 }, (_, step) => buffer.readUInt32LE(step * 4));
}

/** The engine's own report of a programme. */
export async function readRaw(context: Context, id: string): Promise<unknown> {
  const [row] = await context.database.query<{ raw: unknown }>(statements.READ_RAW, [id]);
  if (!row) throw new Refusal('not-found', `There is no programme ${id}; it may have been forgotten.`);
  return row.raw;
}
