import { stat } from 'node:fs/promises';
import path from 'node:path';
import type { ProgrammeView } from '../../contract/views.ts';
import { webTypeOf } from '../../core/programme/playable.ts';
import * as analyses from '../../store/statements/analyses.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import type { FileAnswer } from '../fileAnswer.ts';
import { fingerprintFile } from './fingerprint.ts';
import { packFrameTimes } from './frameTimes.ts';
import { lookAt, type Look } from './lookAt.ts';
import { resolveMediaFile } from './mediaFolders.ts';
import { findProgramme, packSpent, viewProgramme, type ProgrammeRow } from './programmes.ts';

/** By what a master is known. */
export interface MasterIdentity {
  readonly path: string;
  readonly bytes: number;
  readonly modifiedAt: Date;
  readonly fingerprint: string | null;
}

export function identityOf(row: ProgrammeRow): MasterIdentity {
  return { path: row.path, bytes: row.facts.bytes, modifiedAt: row.modified_at, fingerprint: row.fingerprint };
}

/** File systems round times; a millisecond is none. */
const TIME_SLACK_MS = 1;

/** How a master stands to the file that was looked at: size and time first, then a fingerprint of its ends. */
export async function compareMaster(master: MasterIdentity): Promise<ProgrammeView['master']> {
  const now = await stat(/* turbopackIgnore: true */ master.path).catch(() => null);
  if (!now?.isFile()) return 'missing';
  if (now.size !== master.bytes) return 'changed';
  if (Math.abs(now.mtime.getTime() - master.modifiedAt.getTime()) <= TIME_SLACK_MS) return 'there';
  if (master.fingerprint === null) return 'changed';
  const fingerprint = await fingerprintFile(master.path).catch(() => null);
  return fingerprint === master.fingerprint ? 'there' : 'changed';
}

/**
 * Makes sure that a master is still the file that was looked at; a file that changed is never silently used.
 *
 * @throws Refusal `file-not-there` or `master-changed`.
 */
export async function requireUnchanged(master: MasterIdentity): Promise<void> {
  const standing = await compareMaster(master);
  if (standing === 'missing') {
    throw new Refusal(
      'file-not-there',
      `The master is no longer at ${master.path}; put it back, or point the programme to where it is now.`,
    );
  }
  if (standing === 'changed') {
    throw new Refusal(
      'master-changed',
      'The master was changed since it was taken in; look at it again on the programme’s page.',
    );
  }
}

/** A master as a file to be answered with, as long as it is the one that was looked at. */
export async function answerMaster(context: Context, id: string): Promise<FileAnswer> {
  const programme = await findProgramme(context, id);
  await requireUnchanged(identityOf(programme));
  const type = webTypeOf(programme.facts)?.split(';')[0] ?? 'application/octet-stream';
  return { path: programme.path, type, missing: `There is no file at ${programme.path}.` };
}

/** Notes how a programme's master stands now, and tells everyone when that changed. */
export async function noticeMaster(context: Context, row: ProgrammeRow): Promise<ProgrammeRow> {
  if (row.state !== 'ready') return row;
  // Taken before the ends are compared: a change after that has another time still.
  const seen = await stat(/* turbopackIgnore: true */ row.path).catch(() => null);
  const standing = await compareMaster(identityOf(row));
  if (standing === 'there' && seen) await noteTouch(context, row, seen.mtime);
  if (standing === row.master) return row;
  const [changed] = await context.database.query<ProgrammeRow>(statements.MARK_MASTER, [row.id, standing]);
  if (!changed) return row;
  context.events.publish({ type: 'programme', programme: viewProgramme(changed) });
  return changed;
}

/** The same content with another time: noted, or its ends would be read again at every look. */
async function noteTouch(context: Context, row: ProgrammeRow, touchedAt: Date): Promise<void> {
  if (Math.abs(touchedAt.getTime() - row.modified_at.getTime()) <= TIME_SLACK_MS) return;
  await context.database.query(statements.NOTE_TOUCH, [row.id, touchedAt]);
}

/**
 * Points a programme to another file, or to the same one looked at again.
 *
 * @param replace - Take the file even if it is not the one that was looked at: everything known is then measured anew.
 * @throws Refusal `other-file` when it is another and that was not asked for; `already-in` when another programme has it.
 */
export async function repointProgramme(
  context: Context,
  id: string,
  typedPath: string,
  replace: boolean,
): Promise<ProgrammeView> {
  const row = await findProgramme(context, id);
  const file = await resolveMediaFile(context.config.mediaFolders, typedPath);
  const [owner] = await context.database.query<ProgrammeRow>(statements.FIND_PROGRAMME_BY_PATH, [file]);
  if (owner && owner.id !== id) {
    throw new Refusal('already-in', `${path.basename(file)} is a programme of its own already.`, { field: 'path' });
  }
  const { size, mtime } = await stat(file);
  // One that could not be looked at has yet to be known, whatever its size.
  const isSame = row.state === 'ready' && size === row.facts.bytes && (await fingerprintFile(file)) === row.fingerprint;
  if (isSame) return move(context, id, file, mtime);
  if (!replace && row.state === 'ready') {
    throw new Refusal(
      'other-file',
      `${path.basename(file)} is not the file this programme was made from. Take it all the same, and everything known is measured anew.`,
      { field: 'replace' },
    );
  }
  return saveLook(context, id, file, await lookAt(context, file));
}

async function move(context: Context, id: string, file: string, modifiedAt: Date): Promise<ProgrammeView> {
  const values = [id, file, path.basename(file), modifiedAt];
  const [row] = await context.database.query<ProgrammeRow>(statements.MOVE_MASTER, values);
  return tell(context, id, row);
}

/** What was measured of the file before says nothing about this one. */
async function saveLook(context: Context, id: string, file: string, look: Look): Promise<ProgrammeView> {
  const [row] = await context.database.query<ProgrammeRow>(statements.SAVE_LOOK, [
    id,
    file,
    path.basename(file),
    JSON.stringify(look.facts),
    look.modifiedAt,
    look.fingerprint,
    packSpent(look.spent),
    JSON.stringify(look.raw),
    look.frameTimes && packFrameTimes(look.frameTimes),
  ]);
  await context.database.query(statements.DROP_SOUNDINGS, [id]);
  await context.database.query(analyses.DROP_ANALYSIS, [id]);
  return tell(context, id, row);
}

function tell(context: Context, id: string, row: ProgrammeRow | undefined): ProgrammeView {
  if (!row) throw new Refusal('not-found', `There is no programme ${id}; it was forgotten meanwhile.`);
  const programme = viewProgramme(row);
  context.events.publish({ type: 'programme', programme });
  return programme;
}

/** Looks at the programmes that an earlier release, or a server that was killed, left unlooked at. */
export async function lookAtTheRest(context: Context, signal: AbortSignal): Promise<void> {
  for (const row of await context.database.query<ProgrammeRow>(statements.UNLOOKED_PROGRAMMES)) {
    if (signal.aborted) return;
    try {
      await saveLook(context, row.id, row.path, await lookAt(context, row.path, signal));
    } catch (error) {
      if (signal.aborted || !isRefusal(error)) throw error;
      const problem = JSON.stringify({ code: error.code, message: error.message });
      const [failed] = await context.database.query<ProgrammeRow>(statements.FAIL_LOOK, [row.id, problem]);
      tell(context, row.id, failed);
    }
  }
}
