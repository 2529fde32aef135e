import { nearestSpeed, speedsOf, startingSeconds, STARTING_CHECKS_SECONDS, type MachineSpeeds } from './encodeTime.ts';
import { costOfDensity, type EncodeKind } from './encodeWork.ts';

/** Renditions of one kind and programme that wait. */
export interface WaitingWork {
  readonly programmeId: string;
  /** null where no picture is encoded. */
  readonly kind: EncodeKind | null;
  readonly renditions: number;
  /** Of all of them: `workOf`, and pixels of masters that are compared. */
  readonly work: number;
  /** Whether their density is foreseen; otherwise they are taken to be as dense as those that were made. */
  readonly isForeseen: boolean;
  readonly masters: number;
}

/** What waits, in seconds of work, and how many say nothing about it. */
export interface WorkSum {
  readonly seconds: number;
  readonly unknown: number;
}

/** What renditions that wait will take. */
export function sumWork(waiting: readonly WaitingWork[], speeds: MachineSpeeds): WorkSum {
  let [seconds, unknown] = [0, 0];
  const { checkedPixelsPerSecond } = speeds;
  for (const { programmeId, kind, renditions, work, isForeseen, masters } of waiting) {
    const speed = kind && nearestSpeed(kind, speedsOf(programmeId, speeds).encoding);
    if (kind && !speed) unknown += renditions;
    else {
      const density = speed && !isForeseen ? costOfDensity(speed.bitsPerPixel) : 1;
      const encodes = speed ? (work * density) / speed.workPerSecond.usual : 0;
      const checks = checkedPixelsPerSecond ? masters / checkedPixelsPerSecond : 0;
      const starts = startingSeconds(kind ?? { way: 'once' }) + STARTING_CHECKS_SECONDS;
      seconds += starts * renditions + encodes + checks;
    }
  }
  return { seconds, unknown };
}
