import path from 'node:path';
import { rm } from 'node:fs/promises';
import type { ProgrammesRequest } from '../../contract/list.ts';
import type {
  ForgottenView,
  MediaListing,
  ListPage,
  Problem,
  ProgrammeSummary,
  ProgrammeView,
} from '../../contract/views.ts';
import type { Portion, ProgrammeFacts } from '../../core/programme/facts.ts';
import * as statements from '../../store/statements/programmes.ts';
import { stripsOf } from '../analysis/stripFolder.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';
import { packFrameTimes } from './frameTimes.ts';
import { lookAt, type Look } from './lookAt.ts';
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
  /** The first stretch of black that was found; null where none was, or nothing was looked at yet. */
  readonly is_made: boolean;
  readonly first_black: Portion | null;
}

/** Takes a master in: read, never written to. */
export async function takeIn(context: Context, typedPath: string, signal?: AbortSignal): Promise<ProgrammeView> {
  const file = await resolveMediaFile(context.config.mediaFolders, typedPath);
  const [known] = await context.database.query<ProgrammeRow>(statements.FIND_PROGRAMME_BY_PATH, [file]);
  if (known) throw alreadyIn(file);
  const look = await lookAt(context, file, signal);
  const broughtBack = await bringBack(context, file, look);
  if (broughtBack) return announce(context, broughtBack);
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
  return announce(context, row);
}

function announce(context: Context, row: ProgrammeRow): ProgrammeView {
  context.events.publish({ type: 'programme', programme: summariseProgramme(row) });
  return viewProgramme(row);
}

/** A file that was forgotten brings its history back with it, wherever it lies now. */
async function bringBack(context: Context, file: string, look: Look): Promise<ProgrammeRow | null> {
  return context.database.transaction(async (query) => {
    const [hidden] = await query<ProgrammeRow>(statements.FIND_HIDDEN_BY_FINGERPRINT, [look.fingerprint]);
    if (!hidden) return null;
    await query(statements.MOVE_MASTER, [hidden.id, file, path.basename(file), look.modifiedAt]);
    const [row] = await query<ProgrammeRow>(statements.RESTORE_PROGRAMME, [hidden.id]);
    if (!row) throw alreadyIn(file);
    return row;
  });
}

/**
 * A page of programmes, in the order they came in.
 *
 * @param after - What the page before gave as `next`; null begins.
 */
export async function listProgrammes(
  context: Context,
  { after, limit }: ProgrammesRequest,
): Promise<ListPage<ProgrammeSummary>> {
  const [time = null, id = null] = after?.split('_') ?? [];
  const values = [time && new Date(Number(time)), id, limit];
  const rows = await context.database.query<ProgrammeRow>(statements.LIST_PROGRAMMES, values);
  const last = rows.at(-1);
  return {
    rows: rows.map(summariseProgramme),
    next: last && rows.length === limit ? `${last.added_at.getTime()}_${last.id}` : null,
  };
}

/** @throws Refusal `not-found`. */
export async function findProgramme(context: Context, id: string): Promise<ProgrammeRow> {
  const [row] = await context.database.query<ProgrammeRow>(statements.FIND_PROGRAMME, [id]);
  if (!row) throw new Refusal('not-found', `There is no programme ${id}; it may have been forgotten.`);
  return row;
}

/** Hides a programme and its renditions; everything that is known of it is kept. */
export async function forgetProgramme(context: Context, id: string): Promise<void> {
  await findProgramme(context, id);
  const forgotten = await context.database.query(statements.FORGET_PROGRAMME, [id, context.now()]);
  if (forgotten.length === 0) {
    throw new Refusal('programme-in-use', 'A rendition of this programme is queued or running; stop it first.');
  }
  context.events.publish({ type: 'programme-forgotten', programmeId: id });
}

/** Brings a forgotten programme back, with everything that was known of it. */
export async function restoreProgramme(context: Context, id: string): Promise<ProgrammeView> {
  const [known] = await context.database.query<ProgrammeRow>(statements.FIND_ANY_PROGRAMME, [id]);
  if (!known) throw new Refusal('not-found', `There is no programme ${id}; it was taken away for good.`);
  const [row] = await context.database.query<ProgrammeRow>(statements.RESTORE_PROGRAMME, [id]);
  if (!row) throw new Refusal('already-in', `${known.name} was taken in anew meanwhile; forget that one first.`);
  return announce(context, row);
}

interface HiddenRow extends Record<string, unknown> {
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly hidden_at: Date;
  readonly renditions: number;
  readonly portions: number;
  readonly analysed: boolean;
}

/** What was forgotten, with what would go if it were taken away for good. */
export async function listForgotten(context: Context): Promise<ForgottenView[]> {
  const rows = await context.database.query<HiddenRow>(statements.LIST_HIDDEN);
  return rows.map(({ hidden_at, ...row }) => ({ ...row, forgottenAt: hidden_at.toISOString() }));
}

/**
 * Takes away for good what is known of forgotten programmes. Masters and renditions stay where they are, as files.
 *
 * @param ids - Only those: what was forgotten since the list was shown is left alone.
 * @returns How many went.
 */
export async function removeForgotten(context: Context, ids: readonly string[]): Promise<number> {
  let removed = 0;
  for (const id of ids) {
    removed += (await context.database.query(statements.REMOVE_HIDDEN, [id])).length;
    await rm(stripsOf(context.config.dataFolder, id), { recursive: true, force: true });
  }
  return removed;
}

/** A media folder's contents, with what is taken in already. */
export async function browseMedia(context: Context, folder: string | null): Promise<MediaListing> {
  const listing = await listMediaFolder(context.config.mediaFolders, folder);
  const programmes = await context.database.query<{ id: string; path: string }>(statements.LIST_PATHS);
  const idOf = new Map(programmes.map((row) => [row.path, row.id]));
  return {
    ...listing,
    entries: listing.entries.map((entry) => ({ ...entry, programmeId: idOf.get(entry.path) ?? null })),
  };
}

export function viewProgramme(row: ProgrammeRow): ProgrammeView {
  return { ...identify(row), ...row.facts };
}

/** As lists have it. */
export function summariseProgramme(row: ProgrammeRow): ProgrammeSummary {
  const { bytes, durationSeconds, frameCount, frameRate, width, height, video, audio = [] } = row.facts ?? {};
  return {
    ...identify(row),
    isMade: row.is_made,
    bytes,
    durationSeconds,
    frameCount,
    frameRate,
    width,
    height,
    video: video && { codec: video.codec, constantRate: video.constantRate },
    audio: audio.map(({ codec, channels, sampleRate }) => ({ codec, channels, sampleRate })),
  };
}

/** What is shown of it wherever it is. */
function identify(row: ProgrammeRow) {
  return {
    id: row.id,
    path: row.path,
    name: row.name,
    state: row.state,
    ...(row.problem ? { problem: row.problem } : {}),
    master: row.master,
    addedAt: row.added_at.toISOString(),
    openingFrame: openingFrameOf(row),
  };
}

/** The first picture that is not black, as far as that is known. */
function openingFrameOf({ first_black: black, facts }: ProgrammeRow): number {
  const begins = black?.inFrame === 0 ? black.outFrame + 1 : 0;
  return begins < (facts?.frameCount ?? 0) ? begins : 0;
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
