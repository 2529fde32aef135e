import { readFileSync } from 'node:fs';
import path from 'node:path';

/**
 * Where an empty database is kept for new data folders to begin from: beside the application and not the data, one for
 * each release of the database, whose files another may not read.
 */
export function templateFolder(applicationFolder: string): string {
  const about = path.join(applicationFolder, 'node_modules/@electric-sql/pglite/package.json');
  const { version } = JSON.parse(readFileSync(/* turbopackIgnore: true */ about, 'utf8')) as { version: string };
  return path.join(applicationFolder, '.linstock', `empty-database-${version}`);
}
