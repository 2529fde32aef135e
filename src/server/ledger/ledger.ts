import { link, rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { LedgerPage, LedgerRequest, LedgerRow } from '../../contract/ledger.ts';
import { readRecipe } from '../../contract/stored/recipe.ts';
import type { QualityView, RenditionOutline, RenditionState, RenditionView } from '../../contract/views.ts';
import { faultInName, withEnding } from '../../core/naming/outputName.ts';
import { shareOfMaster } from '../../core/programme/shareOf.ts';
import * as statements from '../../store/statements/ledger.ts';
import type { Context } from '../context.ts';
import { Refusal } from '../refusal.ts';
import { sentenceOf, workSecondsOf } from '../renditions/renditionRow.ts';
import { findRendition, publishRendition } from '../renditions/renditions.ts';

interface StoredEntry extends Record<string, unknown> {
  readonly id: string;
  readonly programme_id: string;
  readonly programme_name: string;
  readonly hidden: boolean;
  readonly recipe: unknown;
  readonly outline: RenditionOutline;
  readonly name: string;
  readonly path: string;
  readonly state: RenditionState;
  readonly problem: string | null;
  readonly finished_at: Date | null;
  readonly bytes: number | null;
  readonly encode_seconds: number | null;
  readonly check_seconds: number | null;
  readonly quality: QualityView | null;
  readonly has_file: boolean;
  readonly batch_id: string | null;
  readonly batch_name: string | null;
  readonly source_bytes: number;
  readonly source_seconds: number;
}

/** A page of everything that was ever made, and the sums of all that was asked for. */
export async function viewLedger(context: Context, request: LedgerRequest): Promise<LedgerPage> {
  const { words, state, order, after, limit } = request;
  const plain = words.toLowerCase().trim().replace(/\s+/g, ' ');
  const wanted = [state, plain];
  const hasWords = plain !== '';
  const [rows, [sums]] = await Promise.all([
    context.database.query<StoredEntry>(statements.listLedger(order, hasWords), [...wanted, after, limit]),
    context.database.query<{ count: number; bytes: number; seconds: number }>(statements.sumLedger(hasWords), wanted),
  ]);
  return {
    rows: await Promise.all(rows.map(viewEntry)),
    next: rows.length === limit ? String(after + limit) : null,
    sums: { count: sums?.count ?? 0, bytes: Number(sums?.bytes ?? 0), workSeconds: sums?.seconds ?? 0 },
  };
}

async function viewEntry(stored: StoredEntry): Promise<LedgerRow> {
  const recipe = readRecipe(stored.recipe);
  const { seconds } = stored.outline;
  const source = { bytes: stored.source_bytes, durationSeconds: stored.source_seconds };
  return {
    id: stored.id,
    programmeId: stored.programme_id,
    programmeName: stored.programme_name,
    isForgotten: stored.hidden,
    recipeName: recipe.name,
    sentence: sentenceOf(recipe, stored.outline),
    name: stored.name,
    path: stored.path,
    state: stored.state,
    problem: stored.problem,
    finishedAt: stored.finished_at?.toISOString() ?? null,
    bytes: stored.bytes,
    sourceBytes: shareOfMaster(source, seconds),
    seconds,
    workSeconds: workSecondsOf(stored),
    ssim: stored.quality?.ssim.mean ?? null,
    file: stored.has_file ? await lookFor(stored.path, stored.bytes) : 'none',
    batch: stored.batch_id === null ? null : { id: stored.batch_id, name: stored.batch_name ?? '' },
  };
}

async function lookFor(file: string, bytes: number | null): Promise<LedgerRow['file']> {
  const found = await stat(/* turbopackIgnore: true */ file).catch(() => null);
  if (!found?.isFile()) return 'gone';
  return bytes !== null && found.size !== bytes ? 'changed' : 'there';
}

/**
 * Gives a finished file another name in its folder; never that of another file.
 *
 * @throws Refusal about the name, or where there is no file.
 */
export async function renameFile(context: Context, id: string, typed: string): Promise<RenditionView> {
  const { path: file } = await requireFile(context, id);
  const fault = faultInName(typed);
  if (fault) throw new Refusal('name-unusable', fault, { field: 'name' });
  const name = withEnding(typed, path.extname(file));
  const target = path.join(path.dirname(file), name);
  if (target !== file) {
    await link(file, target).catch((error: NodeJS.ErrnoException) => {
      if (error.code === 'EEXIST') {
        throw new Refusal('output-exists', `${name} exists in that folder already.`, { field: 'name' });
      }
      throw error;
    });
    await rm(file, { force: true });
    await context.database.query(statements.MOVE_FILE, [id, target, name]);
  }
  return publishRendition(context, id);
}

/** Deletes a finished file for good; its entry stays. */
export async function deleteFile(context: Context, id: string): Promise<RenditionView> {
  const { path: file } = await requireFile(context, id);
  await rm(file, { force: true });
  await context.database.query(statements.LOSE_FILE, [id]);
  return publishRendition(context, id);
}

/** The file of a finished rendition, as long as it is the one that was made. */
async function requireFile(context: Context, id: string) {
  const row = await findRendition(context, id);
  const standing = row.has_file ? await lookFor(row.path, row.bytes) : 'none';
  if (standing === 'there') return row;
  const message =
    standing === 'changed'
      ? 'The file was changed by something else since it was made, so it is left alone.'
      : 'There is no file of it any more.';
  throw new Refusal('file-not-there', message);
}
