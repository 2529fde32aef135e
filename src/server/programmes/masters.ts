import path from 'node:path';
import type { ProgrammeView } from '../../contract/views.ts';
import { webTypeOf } from '../../core/programme/playable.ts';
import * as analyses from '../../store/statements/analyses.ts';
import * as statements from '../../store/statements/programmes.ts';
import type { Context } from '../context.ts';
import { withdraw } from '../jobs/queue.ts';
import { isRefusal, Refusal } from '../refusal.ts';
import type { FileAnswer } from '../files/fileAnswer.ts';
import { NotOpened, openFile, withOpened, type OpenedFile } from '../files/openedFile.ts';
import { fingerprintFile } from './fingerprint.ts';
import { packFrameTimes } from './frameTimes.ts';
import { lookAt, type Look } from './lookAt.ts';
import { openMediaFile, resolveMediaFile } from './mediaFolders.ts';
import { findProgramme, packSpent, summariseProgramme, viewProgramme, type ProgrammeRow } from './programmes.ts';

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

/** A master that was found, opened: what is done next is done with the very file that was compared. */
type Comparison =
  { readonly standing: 'there' | 'changed'; readonly file: OpenedFile | null } | { readonly standing: 'missing' };

/** How a master stands to the file that was looked at: size and time first, then a fingerprint of its ends. */
async function compareMaster(master: MasterIdentity): Promise<Comparison> {
  let file: OpenedFile;
  try {
    file = await openFile(master.path, true);
  } catch (error) {
    // A link where the file was leads wherever it likes; it is not followed, not even to look.
    const isThere = error instanceof NotOpened && error.reason === 'link';
    return isThere ? { standing: 'changed', file: null } : { standing: 'missing' };
  }
  const standing = await judgeContent(master, file).catch(() => 'changed' as const);
  return { standing, file };
}

async function judgeContent(master: MasterIdentity, file: OpenedFile): Promise<'there' | 'changed'> {
  if (file.bytes !== master.bytes) return 'changed';
  if (Math.abs(file.modifiedAt.getTime() - master.modifiedAt.getTime()) <= TIME_SLACK_MS) return 'there';
  if (master.fingerprint === null) return 'changed';
  return (await fingerprintFile(file.handle)) === master.fingerprint ? 'there' : 'changed';
}

/**
 * Opens a master if it is still the file that was looked at; a file that changed is never silently used. The caller
 * closes it.
 *
 * @throws Refusal `file-not-there` or `master-changed`.
 */
export async function openMaster(master: MasterIdentity): Promise<OpenedFile> {
  const compared = await compareMaster(master);
  if (compared.standing === 'missing') {
    throw new Refusal(
      'file-not-there',
      `The master is no longer at ${master.path}; put it back, or point the programme to where it is now.`,
    );
  }
  if (compared.standing === 'there' && compared.file) return compared.file;
  await compared.file?.close();
  throw new Refusal(
    'master-changed',
    'The master was changed since it was taken in; look at it again on the programme’s page.',
  );
}

/** Works with an unchanged master, by a path that stays that file's, and closes it in the end. Throws as `openMaster`. */
export async function withMaster<Result>(
  master: MasterIdentity,
  work: (path: string) => Promise<Result>,
): Promise<Result> {
  return await withOpened(await openMaster(master), work);
}

/** Makes sure that a master is still the file that was looked at. Throws as `openMaster`. */
export async function requireUnchanged(master: MasterIdentity): Promise<void> {
  await (await openMaster(master)).close();
}

/** A master as a file to be answered with, as long as it is the one that was looked at. */
export async function answerMaster(context: Context, id: string): Promise<FileAnswer> {
  const programme = await findProgramme(context, id);
  const type = webTypeOf(programme.facts)?.split(';')[0] ?? 'application/octet-stream';
  return { file: await openMaster(identityOf(programme)), name: programme.name, type };
}

/** As much of a programme as its master is known by. */
export interface MasterRow extends Record<string, unknown> {
  readonly id: string;
  readonly path: string;
  readonly bytes: number;
  readonly modified_at: Date;
  readonly fingerprint: string | null;
  readonly master: ProgrammeView['master'];
}

/** Notes how a programme's master stands now, and tells everyone when that changed. */
export async function noticeMaster(context: Context, row: MasterRow): Promise<void> {
  const { path: file, bytes, modified_at: modifiedAt, fingerprint } = row;
  const compared = await compareMaster({ path: file, bytes, modifiedAt, fingerprint });
  const { standing } = compared;
  if (standing !== 'missing') await compared.file?.close();
  // Its time was taken before the ends were compared: a change after that has another time still.
  if (standing === 'there' && compared.file) await noteTouch(context, row, compared.file.modifiedAt);
  if (standing === row.master) return;
  const [changed] = await context.database.query<ProgrammeRow>(statements.MARK_MASTER, [row.id, standing]);
  if (changed) context.events.publish({ type: 'programme', programme: summariseProgramme(changed) });
}

/** A programme, with how its master stands at this moment. */
export async function findNow(context: Context, id: string): Promise<ProgrammeRow> {
  const row = await findProgramme(context, id);
  if (row.state !== 'ready') return row;
  await noticeMaster(context, { ...row, bytes: row.facts.bytes });
  return findProgramme(context, id);
}

/** The same content with another time: noted, or its ends would be read again at every look. */
async function noteTouch(context: Context, row: MasterRow, touchedAt: Date): Promise<void> {
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
  const sameSince = await isSameFile(row, file);
  if (sameSince) return move(context, id, file, sameSince);
  if (!replace && row.state === 'ready') {
    throw new Refusal(
      'other-file',
      `${path.basename(file)} is not the file this programme was made from. Take it all the same, and everything known is measured anew.`,
      { field: 'replace' },
    );
  }
  return saveLook(context, id, file, await lookAt(context, file));
}

/** @returns When the file was last written if it holds what was looked at, otherwise null. */
async function isSameFile(row: ProgrammeRow, file: string): Promise<Date | null> {
  // One that could not be looked at has yet to be known, whatever its size.
  if (row.state !== 'ready') return null;
  const opened = await openMediaFile(file);
  try {
    const isSame = opened.bytes === row.facts.bytes && (await fingerprintFile(opened.handle)) === row.fingerprint;
    return isSame ? opened.modifiedAt : null;
  } finally {
    await opened.close();
  }
}

async function move(context: Context, id: string, file: string, modifiedAt: Date): Promise<ProgrammeView> {
  const values = [id, file, path.basename(file), modifiedAt];
  const [row] = await context.database.query<ProgrammeRow>(statements.MOVE_MASTER, values);
  return tell(context, id, row);
}

/** What was measured of the file before says nothing about this one. */
async function saveLook(context: Context, id: string, file: string, look: Look): Promise<ProgrammeView> {
  const values = [
    id,
    file,
    path.basename(file),
    JSON.stringify(look.facts),
    look.modifiedAt,
    look.fingerprint,
    packSpent(look.spent),
    JSON.stringify(look.raw),
    look.frameTimes && packFrameTimes(look.frameTimes),
  ];
  const row = await context.database.transaction(async (query) => {
    const [saved] = await query<ProgrammeRow>(statements.SAVE_LOOK, values);
    await query(statements.DROP_SOUNDINGS, [id]);
    await query(analyses.DROP_ANALYSIS, [id]);
    await withdraw(query, 'analysis', id);
    return saved;
  });
  return tell(context, id, row);
}

function tell(context: Context, id: string, row: ProgrammeRow | undefined): ProgrammeView {
  if (!row) throw new Refusal('not-found', `There is no programme ${id}; it was forgotten meanwhile.`);
  context.events.publish({ type: 'programme', programme: summariseProgramme(row) });
  return viewProgramme(row);
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
