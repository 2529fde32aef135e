import { readFile, rename, rm, stat, writeFile } from 'node:fs/promises';

/** What of a rendition's work is done, so that an attempt that was cut off is gone on with instead of begun anew. */
export interface Journal {
  /**
   * Does a step, or takes over what an earlier attempt made of the same.
   *
   * @param name - Of the step; each is done once.
   * @param given - Whatever its outcome depends on besides the order itself; written as JSON.
   * @param files - What it leaves, once it is done.
   */
  step<Result>(
    name: string,
    given: unknown,
    files: () => readonly string[] | Promise<readonly string[]>,
    work: () => Promise<Result>,
  ): Promise<Result>;
  /** Files of all steps that are done. */
  files(): readonly string[];
}

interface Step {
  readonly name: string;
  readonly given: string;
  readonly files: readonly { readonly path: string; readonly bytes: number }[];
  readonly result: unknown;
}

interface Book {
  readonly key: string;
  readonly steps: Step[];
}

/**
 * Opens the journal of a rendition.
 *
 * @param file - Where it is kept.
 * @param key - Of the order: another one begins a new journal.
 */
export async function openJournal(file: string, key: string): Promise<Journal> {
  const kept = await readBook(file);
  const book: Book = { key, steps: kept?.key === key ? kept.steps.filter((step) => step.files.length > 0) : [] };
  return {
    step: async (name, given, files, work) => {
      const asked = JSON.stringify(given);
      const done = book.steps.find((step) => step.name === name && step.given === asked);
      // The result was made by the same step of the same code, and is only read back.
      if (done && (await areThere(done))) return done.result as Awaited<ReturnType<typeof work>>;
      const result = await work();
      const step = { name, given: asked, files: await weigh(await files()), result };
      book.steps.splice(0, book.steps.length, ...book.steps.filter((one) => one.name !== name), step);
      await writeBook(file, book);
      return result;
    },
    files: () => book.steps.flatMap((step) => step.files.map(({ path }) => path)),
  };
}

async function areThere({ files }: Step): Promise<boolean> {
  const sizes = await Promise.all(files.map(async ({ path }) => (await stat(path).catch(() => null))?.size));
  return sizes.every((size, index) => size === files[index]?.bytes);
}

async function weigh(files: readonly string[]): Promise<Step['files']> {
  return Promise.all(files.map(async (path) => ({ path, bytes: (await stat(path)).size })));
}

/** What cannot be read is nothing to go on with. */
async function readBook(file: string): Promise<Book | null> {
  try {
    return JSON.parse(await readFile(file, 'utf8')) as Book;
  } catch {
    return null;
  }
}

/** Wholly or not at all. */
async function writeBook(file: string, book: Book): Promise<void> {
  try {
    await writeFile(`${file}.new`, JSON.stringify(book));
    await rename(`${file}.new`, file);
  } catch {
    // Without a note the step is done again after a death, and nothing worse.
    await rm(`${file}.new`, { force: true }).catch(() => undefined);
  }
}
