import type { RunOptions } from '../../engine/engine.ts';
import type { PassName } from '../../core/plan/encodePlan.ts';
import type { TimeEstimate } from '../../core/forecast/encodeTime.ts';
import type { Pace } from '../../core/forecast/pace.ts';
import { overallFraction, secondsLeft, weighStages, type StageName } from './progress.ts';

/** A runner's position, as it is stored and shown. */
export interface Position {
  readonly stage: StageName;
  /** From 1; checking comes after the last pass. */
  readonly pass: number;
  readonly passes: number;
  readonly fraction: number;
  readonly framesPerSecond: number | null;
  readonly secondsLeft: number | null;
}

export interface StageReporter {
  /**
   * Announces a stage.
   *
   * @param total - What its progress counts up to: frames, or seconds for sound.
   * @returns The listener for the engine's reports.
   */
  readonly enter: (stage: StageName, total: number) => RunOptions['onProgress'];
}

/** Passes that encode a picture from its beginning to its end. */
const GOES_OVER_ALL: ReadonlySet<StageName> = new Set(['analysis', 'encode', 'correction']);

/** What is known of a rendition before it begins. */
export interface Foreseen {
  /** Passes that come for certain. */
  readonly planned: readonly PassName[];
  /** What comes besides as a rule, as where a size is filled; it counts as work that is left, not as passes. */
  readonly usual: readonly StageName[];
  /** What the first of two passes takes against the second. */
  readonly firstPass: number;
  /** Seconds; null where nothing was learned. */
  readonly expected: Pick<TimeEstimate, 'likely' | 'checking'> | null;
  /** How passes over the picture go. */
  readonly pace: Pace;
}

/**
 * Turns the engine's reports into a position in the whole.
 *
 * @param foreseen - What comes as a rule; a correction that was not is added when it comes.
 * @param nowMs - Clock, in milliseconds.
 */
export function createStageReporter(
  { planned, usual, firstPass, expected, pace }: Foreseen,
  nowMs: () => number,
  onPosition: (position: Position) => void,
): StageReporter {
  const weights = weighStages([...planned, ...usual], firstPass, expected);
  const startedMs = nowMs();
  const entered: StageName[] = [];
  return {
    enter: (stage, total) => {
      entered.push(stage);
      const current = entered.length - 1;
      const passesLeft = without(planned, entered);
      // What is measured on the way, as a rule, is not the check at the end.
      const isLast = stage === 'checking' && !without(usual, entered.slice(0, -1)).includes('checking');
      const left = isLast ? [] : [...passesLeft, ...without(usual, entered), 'checking' as const];
      const stages = [...entered, ...left];
      const report = (share: number, framesPerSecond: number | null) => {
        const fraction = overallFraction(weights, stages, current, GOES_OVER_ALL.has(stage) ? pace(share) : share);
        onPosition({
          stage,
          // What is measured on the way is no pass of its own.
          pass: entered.filter(isPass).length,
          passes: entered.filter(isPass).length + (isLast ? 0 : passesLeft.length),
          fraction,
          framesPerSecond,
          secondsLeft: secondsLeft(fraction, (nowMs() - startedMs) / 1000, expected?.likely ?? null),
        });
      };
      report(0, null);
      return (progress) => {
        const isSound = stage === 'sound';
        const done = isSound ? (progress.outSeconds ?? 0) : progress.frame;
        report(total > 0 ? done / total : 0, isSound ? null : progress.framesPerSecond);
      };
    },
  };
}

/** Those that were not entered yet, each as often as it is left. */
function without<Name extends StageName>(stages: readonly Name[], entered: readonly StageName[]): Name[] {
  const gone = [...entered];
  return stages.filter((stage) => {
    const at = gone.indexOf(stage);
    if (at >= 0) gone.splice(at, 1);
    return at < 0;
  });
}

function isPass(stage: StageName): boolean {
  return stage !== 'checking';
}
