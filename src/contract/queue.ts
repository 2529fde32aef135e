import { boolean, number, string, type InferType } from 'yup';
import { minutesOf, type OpenHours } from '../core/queue/openHours.ts';
import { MOST_ROWS, rowLimit } from './list.ts';
import { fault, strictObject } from './strictObject.ts';
import type { RenditionPage } from './views.ts';

/** Encoders use every core by themselves; more than so many only take each other's memory. */
export const MOST_AT_ONCE = 8;

const timeOfDay = string().test(
  'time',
  fault('a time of day such as 23:00'),
  (value) => value === undefined || minutesOf(value) !== null,
);

const queueFields = {
  paused: boolean(),
  atOnce: number()
    .integer(fault('a whole number'))
    .min(1, fault('at least 1'))
    .max(MOST_AT_ONCE, fault(`at most ${MOST_AT_ONCE}`)),
  whenIdle: boolean(),
  hours: strictObject({ from: timeOfDay.required(), to: timeOfDay.required() }).nullable(),
};

/** How the queue goes, as it is kept. */
export const queueSettingsSchema = strictObject({
  paused: queueFields.paused.default(false),
  atOnce: queueFields.atOnce.default(1),
  hours: queueFields.hours.default(null),
  whenIdle: queueFields.whenIdle.default(false),
}).required();

export interface QueueSettings {
  readonly paused: boolean;
  /** Renditions side by side. */
  readonly atOnce: number;
  /** When renditions are made; null is always. */
  readonly hours: OpenHours | null;
  /** Only while others leave the machine alone. */
  readonly whenIdle: boolean;
}

/** What is changed of it. */
export const queueChangeSchema = strictObject({
  paused: queueFields.paused.optional(),
  atOnce: queueFields.atOnce.optional(),
  // An object that is not given would otherwise be made of its parts.
  hours: queueFields.hours.default(undefined).optional(),
  whenIdle: queueFields.whenIdle.optional(),
}).required();

export type QueueChange = InferType<typeof queueChangeSchema>;

/** Renditions of the line in one answer at most. */
export const MOST_OF_LINE = 10 * MOST_ROWS;

/** How much of the line is asked for. */
export const queueRequestSchema = strictObject({ limit: rowLimit(MOST_OF_LINE) }).required();

/** What runs and waits, in the order it comes to its turn, and how the queue goes. */
export interface QueueView extends QueueSettings, RenditionPage {
  /** Whether renditions are made now: not paused, within its hours, and on an idle machine where that is asked for. */
  readonly open: boolean;
  /** null where nothing runs and nothing waits. */
  readonly left: WorkLeft | null;
}

/** What is left to do, and by when it will be done. */
export interface WorkLeft {
  /** Of work, as far as it is known. */
  readonly seconds: number;
  /** Renditions of which it is not known. */
  readonly unknown: number;
  /** Renditions that stand still until they are let go on; they count as no work. */
  readonly paused: number;
  /** By what is known, and the queue's hours; null while it is stopped, waits for an idle machine, or some of it stands still. */
  readonly doneAt: string | null;
}

const place = number().integer(fault('a whole number')).min(0, fault('0 for the first'));

/** Where those of a batch that wait are put, in their order, among the others. */
export const batchChangeSchema = strictObject({ position: place.required(fault('a place in the line')) }).required();

/** What is changed of a rendition that runs or waits. */
export const renditionChangeSchema = strictObject({
  /** Its place among those that wait, from 0. */
  position: place.optional(),
  paused: boolean().optional(),
}).required();
