import type { Findings } from '../analysis/conclude.ts';
import type { Channels } from '../sound/definition.ts';
import type { SoundLevel } from '../sound/loudness.ts';
import type { Container } from '../container/names.ts';
import type { Edges, FieldOrder } from '../geometry/preparation.ts';
import type { PixelFormat } from '../picture/store.ts';
import type { Portion, ProgrammeFacts } from '../programme/facts.ts';
import type { FrameRateChoice } from '../recipe/frameRate.ts';
import type { FrameClock } from '../timing/frameClock.ts';

/** What is looked at: the facts always, the findings once the analysis is done. */
export interface Subject {
  readonly facts: ProgrammeFacts;
  readonly clock: FrameClock;
  readonly findings: Findings | null;
}

/** What applying an advisory does, to the portion or to the next plan. */
export type Fix =
  | { readonly kind: 'portion'; readonly label: string; readonly portion: Portion }
  | { readonly kind: 'copy'; readonly label: string; readonly container: Container }
  | { readonly kind: 'crop'; readonly label: string; readonly crop: Edges }
  | {
      readonly kind: 'deinterlace';
      readonly label: string;
      /** null leaves frames as they are. */ readonly fields: FieldOrder | null;
    }
  /** A frame size of so many lines at most. */
  | { readonly kind: 'fit'; readonly label: string; readonly height: number }
  | { readonly kind: 'sound'; readonly label: string; readonly channels: Channels; readonly kbps: number }
  /** Tracks of one channel each, counted from 0, become one sound. */
  | { readonly kind: 'join'; readonly label: string; readonly tracks: readonly number[] }
  /** Frames a second. */
  | { readonly kind: 'frame-rate'; readonly label: string; readonly frameRate: FrameRateChoice }
  /** How loud the sound is to be. */
  | { readonly kind: 'loudness'; readonly label: string; readonly level: SoundLevel }
  /** By how many decibels it is turned up. */
  | { readonly kind: 'gain'; readonly label: string; readonly db: number }
  /** A size to fill. */
  | { readonly kind: 'size'; readonly label: string; readonly bytes: number }
  /** An average rate of the picture. */
  | { readonly kind: 'rate'; readonly label: string; readonly kbps: number }
  | { readonly kind: 'keyframes'; readonly label: string; readonly seconds: number }
  /** How pixels are stored. */
  | { readonly kind: 'pixels'; readonly label: string; readonly format: PixelFormat }
  | { readonly kind: 'transparency'; readonly label: string }
  /** High light is brought down to what ordinary screens show. */
  | { readonly kind: 'standard-range'; readonly label: string }
  /** Captions go into the file. */
  | { readonly kind: 'embed'; readonly label: string }
  /** As wide as they are high. */
  | { readonly kind: 'square-pixels'; readonly label: string };

const SEVERITIES = ['serious', 'caution', 'note'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** A finding about a programme or a plan: what, why it matters, and what would be done about it. None of them stops anything. */
export interface Advisory {
  readonly code: string;
  readonly severity: Severity;
  /** One sentence: what was found and the reason it matters. */
  readonly message: string;
  /** What it changes, or what to do where nothing can be applied; empty where the message says it all. */
  readonly remedy: string;
  /** The key of the recipe that it is about. */
  readonly field?: string;
  /** Frames where it is to be seen. */
  readonly places?: readonly number[];
  readonly fix?: Fix;
}

/** Puts the serious first. */
export function bySeverity(one: Pick<Advisory, 'severity'>, other: Pick<Advisory, 'severity'>): number {
  return SEVERITIES.indexOf(one.severity) - SEVERITIES.indexOf(other.severity);
}

/** One kind of advisory. */
export type Advise = (subject: Subject) => Advisory | null;
