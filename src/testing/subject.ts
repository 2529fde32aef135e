import type { Subject } from '../core/advice/advisory.ts';
import type { Findings } from '../core/analysis/conclude.ts';
import { clockOf, factsOf } from './facts.ts';

/** What the analysis finds of a plain minute that nothing is wrong with. */
export const CLEAN: Findings = {
  scan: 'progressive',
  opaque: null,
  bars: { top: 0, bottom: 0, left: 0, right: 0 },
  black: [],
  frozen: [],
  silence: [],
  sceneChanges: [250],
  loudness: { integratedLufs: -15, rangeLu: 6, truePeakDbtp: -1.5 },
  channels: { peaks: [-2, -2], silent: [], identical: false, outOfPhase: false },
  damaged: [],
  busyness: { stepSeconds: 0.5, bits: [1000, 2000] },
  sound: { stepSeconds: 0.1, peaks: Array.from({ length: 600 }, () => -12), momentary: [] },
};

/** A programme that was analysed, changed where a test needs it otherwise. */
export function subjectOf(
  findings: Partial<Findings> = {},
  facts: Parameters<typeof factsOf>[0] = {},
  video: Parameters<typeof factsOf>[1] = {},
): Subject {
  const all = factsOf(facts, video);
  return { facts: all, clock: clockOf(all), findings: { ...CLEAN, ...findings } };
}
