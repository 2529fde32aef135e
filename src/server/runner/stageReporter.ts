import type { RunOptions } from '../../engine/engine.ts';
import { overallFraction, secondsLeft, type StageName } from './progress.ts';

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

/**
 * Turns the engine's reports into a position in the whole.
 *
 * @param planned - Passes foreseen; a correction that was not is added when it comes.
 * @param expectedSeconds - Of the whole, as far as it is known.
 * @param nowMs - Clock, in milliseconds.
 */
export function createStageReporter(
  planned: readonly StageName[],
  expectedSeconds: number | null,
  nowMs: () => number,
  onPosition: (position: Position) => void,
): StageReporter {
  const startedMs = nowMs();
  const entered: StageName[] = [];
  return {
    enter: (stage, total) => {
      entered.push(stage);
      const current = entered.length - 1;
      const upcoming = stage === 'checking' ? [] : [...planned.slice(entered.length), 'checking' as const];
      const stages = [...entered, ...upcoming];
      const report = (share: number, framesPerSecond: number | null) => {
        const fraction = overallFraction(stages, current, share);
        onPosition({
          stage,
          // What is measured on the way is no pass of its own.
          pass: entered.filter(isPass).length,
          passes: stages.filter(isPass).length,
          fraction,
          framesPerSecond,
          secondsLeft: secondsLeft(fraction, (nowMs() - startedMs) / 1000, expectedSeconds),
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

function isPass(stage: StageName): boolean {
  return stage !== 'checking';
}
