import { fileKind } from '../../core/container/containers.ts';
import { pictureOf } from '../../core/plan/encodePlan.ts';
import type { Context } from '../context.ts';
import type { FileAnswer } from '../files/fileAnswer.ts';
import { NotOpened, openFile, withOpened, type OpenedFile } from '../files/openedFile.ts';
import { Refusal } from '../refusal.ts';
import type { RenditionRow } from './renditionRow.ts';
import { findRendition } from './renditions.ts';

/**
 * Opens the file of a rendition; the caller closes it. A link in its place is not followed.
 *
 * @throws Refusal `file-not-there`.
 */
async function openResult(rendition: RenditionRow): Promise<OpenedFile> {
  const missing = (cause?: unknown) =>
    new Refusal(
      'file-not-there',
      `There is no file at ${rendition.path}; it is made once the rendition is done, and may have been moved since.`,
      { cause },
    );
  if (!rendition.has_file) throw missing();
  try {
    return await openFile(rendition.path, false);
  } catch (error) {
    if (error instanceof NotOpened) throw missing(error);
    throw error;
  }
}

/** Works with the file of a rendition, by a path that stays that file's, and closes it in the end. */
export async function withResult<Result>(
  rendition: RenditionRow,
  work: (path: string) => Promise<Result>,
): Promise<Result> {
  return await withOpened(await openResult(rendition), work);
}

/** The file of a rendition, to be answered with. */
export async function answerResult(context: Context, id: string): Promise<FileAnswer> {
  const rendition = await findRendition(context, id);
  const { mime: type } = fileKind(rendition.plan.container, pictureOf(rendition.plan) !== null);
  return { file: await openResult(rendition), name: rendition.name, type };
}
