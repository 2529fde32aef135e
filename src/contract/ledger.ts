import { number, string, type InferType } from 'yup';
import { fault, strictObject } from './strictObject.ts';
import type { ListPage, RenditionState } from './views.ts';

export const LEDGER_ORDERS = ['newest', 'largest', 'smallest', 'best', 'worst', 'slowest'] as const;

const LEDGER_STATES = ['done', 'failed', 'stopped'] as const;

/** What the ledger is asked for. */
export const ledgerRequestSchema = strictObject({
  /** Words that are all to be found in names, recipe, codec or batch. */
  words: string().max(200, fault('at most 200 characters')).default(''),
  state: string()
    .oneOf(LEDGER_STATES, fault(`one of ${LEDGER_STATES.join(', ')}`))
    .nullable()
    .default(null),
  order: string()
    .oneOf(LEDGER_ORDERS, fault(`one of ${LEDGER_ORDERS.join(', ')}`))
    .default('newest'),
  /** What the page before gave as `next`. */
  after: number().integer(fault('what an answer gave as “next”')).min(0).default(0),
  limit: number().integer().min(1).max(200, fault('at most 200 rows')).default(100),
}).required();

export type LedgerRequest = InferType<typeof ledgerRequestSchema>;

/** Something that was made, or was to be. */
export interface LedgerRow {
  readonly id: string;
  readonly programmeId: string;
  readonly programmeName: string;
  /** Forgotten programmes keep their entries. */
  readonly isForgotten: boolean;
  readonly recipeName: string;
  readonly sentence: string;
  readonly name: string;
  readonly path: string;
  readonly state: RenditionState;
  readonly problem: string | null;
  readonly finishedAt: string | null;
  readonly bytes: number | null;
  readonly sourceBytes: number | null;
  readonly seconds: number;
  readonly workSeconds: number | null;
  readonly ssim: number | null;
  /** Where its file is now. */
  readonly file: 'there' | 'changed' | 'gone' | 'none';
  readonly batch: { readonly id: string; readonly name: string } | null;
}

export interface LedgerPage extends ListPage<LedgerRow> {
  readonly sums: { readonly count: number; readonly bytes: number; readonly workSeconds: number };
}

/** What is changed of a finished file. */
export const fileChangeSchema = strictObject({
  name: string().required(fault('a file name')).max(200, fault('at most 200 characters')),
}).required();
