import type { Query } from '../../store/database.ts';
import * as statements from '../../store/statements/jobs.ts';
import { PRIORITY, type JobKind } from './job.ts';

/** What is put into the queue. */
export interface NewJob {
  readonly kind: JobKind;
  /** What it is about; of each kind there is one job about it at most. */
  readonly subject: string;
  readonly payload?: object;
  readonly priority: number;
  /** What was asked for last comes first. */
  readonly isNewestFirst?: boolean;
}

/** Puts a job into the queue; one that is there already stays. Whoever does so tells the others afterwards. */
export async function enqueue(query: Query, job: NewJob): Promise<void> {
  const { kind, subject, payload = {}, priority, isNewestFirst = false } = job;
  await query(statements.ENQUEUE_JOB, [kind, subject, JSON.stringify(payload), priority, isNewestFirst]);
}

/** Takes a job out of the queue. Whoever carries it out finds it gone. */
export async function withdraw(query: Query, kind: JobKind, subject: string): Promise<void> {
  await query(statements.WITHDRAW_JOB, [kind, subject]);
}

/** Puts what someone looks at before others of its kind. */
export async function prefer(query: Query, kind: JobKind, subject: string): Promise<void> {
  await query(statements.PREFER_JOB, [kind, subject, PRIORITY.lookedAt]);
}

/** Where a job stands; null when there is none. */
export async function findStanding(
  query: Query,
  kind: JobKind,
  subject: string,
): Promise<{ readonly isUnderway: boolean; readonly ahead: number } | null> {
  const values = [kind, subject];
  const [row] = await query<{ is_underway: boolean | null; ahead: number }>(statements.FIND_STANDING, values);
  return row ? { isUnderway: row.is_underway === true, ahead: row.ahead } : null;
}
