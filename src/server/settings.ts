import * as statements from '../store/statements/shelf.ts';
import type { Context } from './context.ts';

/** A setting that holds for all, as it was written; null while nobody wrote it. */
export async function readSetting({ database }: Context, name: string): Promise<unknown> {
  const [row] = await database.query<{ value: unknown }>(statements.READ_SETTING, [name]);
  return row?.value ?? null;
}

export async function writeSetting({ database }: Context, name: string, value: object): Promise<void> {
  await database.query(statements.WRITE_SETTING, [name, JSON.stringify(value)]);
}
