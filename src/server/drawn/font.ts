import { readFile } from 'node:fs/promises';
import path from 'node:path';
import type { CaptionFont } from '../../core/captions/subStation.ts';

/** The name that its files give the typeface of the application, and the alphabets that its letters are spread over. */
const FAMILY = 'Source Sans 3 ExtraLight SemiBold';
const ALPHABETS = ['latin', 'latin-ext', 'greek', 'greek-ext', 'cyrillic', 'cyrillic-ext', 'vietnamese'] as const;
const FOLDER = 'node_modules/@fontsource/source-sans-3/files';

/** The typeface that words in pictures are drawn in. */
export async function readFont(applicationFolder: string): Promise<CaptionFont> {
  const names = ALPHABETS.map((alphabet) => `source-sans-3-${alphabet}-600-normal.woff2`);
  const files = names.map(async (name) => {
    const bytes = await readFile(path.join(/* turbopackIgnore: true */ applicationFolder, FOLDER, name));
    return { name, bytes };
  });
  return { family: FAMILY, files: await Promise.all(files) };
}
