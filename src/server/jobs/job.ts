import type { Schema } from 'yup';
import type { Query } from '../../store/database.ts';

/** Everything the queue does. */
export const JOB_KINDS = ['look', 'sounding', 'trial', 'batch', 'rendition', 'analysis'] as const;
export type JobKind = (typeof JOB_KINDS)[number];

/**
 * Smaller comes first: what a person waits for, then what comes in, what was ordered by itself, what is of a
 * batch, and what can be done meanwhile.
 */
export const PRIORITY = {
  waitedFor: 10,
  look: 20,
  trial: 25,
  rendition: 30,
  ofBatch: 32,
  lookedAt: 35,
  analysis: 40,
} as const;

/**
 * How the cores are shared out. What a person waits for has a lane of its own, so that it never stands behind an encode
 * of hours; trials have one too, since someone waits for their curves while the night's work goes on; encoders use every
 * core by themselves, so one goes at a time; what is gentle goes beside them, one after another; whatever of that someone
 * looks at is watched, and passes all of it by.
 */
export const LANES = ['waited', 'trial', 'watched', 'encode', 'gentle'] as const;
export type Lane = (typeof LANES)[number];

/** Where the jobs of a kind go by themselves. */
export type OwnLane = Exclude<Lane, 'watched'>;

/** A job while it is carried out. */
export interface Job<Payload> {
  readonly id: number;
  readonly subject: string;
  readonly payload: Payload;
  readonly attempt: number;
  /** What an earlier attempt left to know; null at first. */
  readonly checkpoint: unknown;
  readonly lane: Lane;
  /** Who carries it out. */
  readonly runner: string;
  /** Seconds so far in which this process did work of another lane beside it. */
  besideSeconds(): number;
  /**
   * Writes something in a transaction, as long as the job is still this attempt's.
   *
   * @returns False when it is not; then nothing is written, and the signal fires.
   */
  write(work: (query: Query) => Promise<unknown>): Promise<boolean>;
}

/** How a job ended. */
export type Settlement =
  | {
      readonly kind: 'settled';
      /** Written in the transaction in which the job goes. */
      readonly write: (query: Query) => Promise<unknown>;
      /** Once it is written. */
      readonly after?: () => Promise<unknown>;
      /** When the job turned out to be another's, or withdrawn. */
      readonly discard?: () => Promise<unknown>;
    }
  /** Another try, with what it has to know. */
  | {
      readonly kind: 'again';
      readonly checkpoint: object;
      /** Not before so long; at once where it is not given. */
      readonly afterSeconds?: number;
      readonly write: (query: Query) => Promise<unknown>;
      readonly after?: () => Promise<unknown>;
    };

/** How one kind of job is done. */
export interface JobHandler<Payload> {
  readonly kind: JobKind;
  readonly lane: OwnLane;
  /** Is not begun while one of these is underway in this process. */
  readonly yieldsTo: readonly JobKind[];
  readonly payload: Schema<Payload>;
  /** Rejects when the signal fires; expected failures are settlements. */
  run(job: Job<Payload>, signal: AbortSignal): Promise<Settlement>;
  /** What is recorded of one that was begun too often and never came to an end. */
  abandon(subject: string): Settlement;
  /** It goes back into the line, unfinished; written in the transaction in which it does. */
  released?(subject: string, query: Query): Promise<unknown>;
  /** Once that is written. */
  afterRelease?(subject: string): Promise<unknown>;
  /** It was taken out of the queue while it was carried out. */
  withdrawn?(subject: string): Promise<unknown>;
}
