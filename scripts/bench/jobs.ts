import type { Context } from '../../src/server/context.ts';
import type { JobKind } from '../../src/server/jobs/job.ts';

/** Jobs of a kind that are not done yet. */
export async function countJobs({ database }: Context, kind: JobKind): Promise<number> {
  const [row] = await database.query<{ count: number }>('SELECT count(*) AS count FROM job WHERE kind = $1', [kind]);
  return Number(row?.count ?? 0);
}
