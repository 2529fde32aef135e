import { stat } from 'node:fs/promises';
import path from 'node:path';
import type { MediaListing, ProgrammeView } from '../../contract/views.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { isEngineError } from '../../engine/engineError.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { isRefusalCode, Refusal } from '../refusal.ts';
import { listMediaFolder, resolveMediaFile } from './mediaFolders.ts';

/** A programme as stored. */
export interface ProgrammeRow extends Record<string, unknown> {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  readonly state: 'looking' | 'ready' | 'failed';
  readonly facts: ProgrammeFacts;
  readonly modified_at: Date;
  readonly added_at: Date;
}

/** Takes a master in: read, never written to. */
export async function takeIn(context: Context, typedPath: string): Promise<ProgrammeView> {
  const file = await resolveMediaFile(context.config.mediaFolders, typedPath);
  const [known] = await context.database.query<ProgrammeRow>(statements.FIND_PROGRAMME_BY_PATH, [file]);
  if (known) throw alreadyIn(file);
  const facts = await probe(context, file);
  const { mtime } = await stat(file);
  const [row] = await context.database.query<ProgrammeRow>(statements.INSERT_PROGRAMME, [
    context.newId(),
    file,
    path.basename(file),
    JSON.stringify(facts),
    mtime,
    context.now(),
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

export async function getProgramme(context: Context, id: string): Promise<ProgrammeView> {
  return viewProgramme(await findProgramme(context, id));
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

/**
 * Makes sure that a master is still the file that was looked at.
 *
 * @throws Refusal `file-not-there` or `master-changed`.
 */
export async function requireUnchanged(file: string, facts: ProgrammeFacts, modifiedAt: Date): Promise<void> {
  const now = await stat(file).catch(() => null);
  if (!now)
    throw new Refusal('file-not-there', `The master is no longer at ${file}; put it back, or forget this programme.`);
  if (now.size !== facts.bytes || Math.abs(now.mtime.getTime() - modifiedAt.getTime()) > 1) {
    throw new Refusal(
      'master-changed',
      'The master was changed since it was taken in; forget the programme and take it in again.',
    );
  }
}

async function probe(context: Context, file: string): Promise<ProgrammeFacts> {
  try {
    return await context.engine.probe(file);
  } catch (error) {
    if (isEngineError(error) && isRefusalCode(error.code)) {
      throw new Refusal(error.code, error.message, { field: 'path', cause: error });
    }
    throw error;
  }
}

function viewProgramme(row: ProgrammeRow): ProgrammeView {
  return {
    id: row.id,
    path: row.path,
    name: row.name,
    state: row.state,
    addedAt: row.added_at.toISOString(),
    ...row.facts,
  };
}

function alreadyIn(file: string): Refusal {
  return new Refusal('already-in', `${path.basename(file)} is already among the programmes.`, { field: 'path' });
}
