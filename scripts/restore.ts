/** Lists the copies of the embedded database, and puts one back: ./linstock restore [number] */
import { listCopies, putBack } from '../src/server/database/copies.ts';
import { resolveConfig } from '../src/server/config.ts';
import { lockFolder } from '../src/store/openEmbedded.ts';

async function restore(): Promise<void> {
  const { dataFolder, databaseUrl } = resolveConfig(process.env, process.cwd());
  if (databaseUrl) throw new Error('The database is a PostgreSQL server’s; copies of it are kept with its own tools.');
  const copies = await listCopies(dataFolder);
  if (copies.length === 0) throw new Error(`There is no copy of the database in ${dataFolder}.`);
  const chosen = process.argv[2];
  if (chosen === undefined) {
    console.log(`Copies of the database in ${dataFolder}, the newest first:`);
    copies.forEach(({ madeAt }, index) => console.log(`  ${index + 1}  ${madeAt.toLocaleString('en-GB')}`));
    console.log('Put one back with its number, such as: ./linstock restore 1');
    return;
  }
  const copy = copies[Number(chosen) - 1];
  if (!copy) throw new Error(`There is no copy ${chosen}; there are 1 to ${copies.length}.`);
  const release = await lockFolder(dataFolder, () => process.exit(1));
  try {
    const aside = await putBack(dataFolder, copy, new Date());
    console.log(`The copy of ${copy.madeAt.toLocaleString('en-GB')} is in its place.`);
    if (aside) console.log(`What was there before is kept in ${aside}.`);
  } finally {
    await release();
  }
}

restore().catch((error: unknown) => {
  console.error(error instanceof Error ? error.message : error);
  process.exit(1);
});
