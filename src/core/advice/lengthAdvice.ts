import { SOUND_STEP_SECONDS } from '../analysis/measured.ts';
import { SILENT_DBFS } from '../analysis/soundFindings.ts';
import { SD_MAX_HEIGHT } from '../programme/colour.ts';
import type { Portion } from '../programme/facts.ts';
import { CONTAINER } from '../container/containers.ts';
import { copyContainer } from '../plan/planCopy.ts';
import { isVideoCodec, VIDEO } from '../video/codecs.ts';
import { positionsOf } from '../programme/positions.ts';
import type { FrameClock } from '../timing/frameClock.ts';
import type { Advise, Subject } from './advisory.ts';

/** Rates a web version is seldom above, picture and sound together (common practice, no source). */
const WEB_BITS_PER_SECOND = { hd: 5_000_000, sd: 2_500_000 } as const;

interface BlackEnds {
  readonly head: Portion | undefined;
  readonly tail: Portion | undefined;
}

/**
 * The programme without black at both ends, as long as nothing is heard there.
 *
 * @returns null when there is none to take off, or nothing else.
 */
function trimEnds({ facts, clock, findings }: Subject, { head, tail }: BlackEnds): Portion | null {
  const last = facts.frameCount - 1;
  const heardAt = (frame: number) => {
    const peaks = findings?.sound?.peaks ?? [];
    return (peaks[Math.floor(clock.secondsOf(frame) / SOUND_STEP_SECONDS)] ?? -Infinity) >= SILENT_DBFS;
  };
  let inFrame = 0;
  while (head && inFrame <= head.outFrame && !heardAt(inFrame)) inFrame += 1;
  let outFrame = last;
  while (tail && outFrame >= tail.inFrame && !heardAt(outFrame)) outFrame -= 1;
  if (inFrame > outFrame || (inFrame === 0 && outFrame === last)) return null;
  return { inFrame, outFrame };
}

function secondsOf({ inFrame, outFrame }: Portion, clock: FrameClock): number {
  return clock.secondsOf(outFrame + 1) - clock.secondsOf(inFrame);
}

/** Black at the head or tail is the commonest thing left on a master. */
export const adviseOnEnds: Advise = (subject) => {
  const { facts, clock, findings } = subject;
  if (!findings || !facts.video) return null;
  const ends: BlackEnds = {
    head: findings.black.find((run) => run.inFrame === 0),
    tail: findings.black.find((run) => run.outFrame >= facts.frameCount - 1),
  };
  const [head, tail] = [ends.head, ends.tail].map((run) => (run ? secondsOf(run, clock) : 0)) as [number, number];
  if (head === 0 && tail === 0) return null;
  const parts = [
    head > 0 ? `${head.toFixed(1)} s at the head` : '',
    tail > 0 ? `${tail.toFixed(1)} s at the tail` : '',
  ];
  const portion = trimEnds(subject, ends);
  const base = {
    code: 'black-ends',
    severity: 'caution' as const,
    places: [ends.head && ends.head.outFrame + 1, ends.tail?.inFrame].filter(
      (frame) => frame !== undefined && frame < facts.frameCount,
    ) as number[],
    message: `The picture is black for ${parts.filter(Boolean).join(' and ')}; on the web nobody waits for it.`,
  };
  if (!portion) return { ...base, remedy: 'Sound is heard there, so nothing is taken off by itself.' };
  const [from, to] = [portion.inFrame, portion.outFrame].map(positionsOf(facts, subject.clock).name);
  return {
    ...base,
    remedy: `The rest runs from ${from} to ${to}, both included.`,
    fix: { kind: 'portion', label: 'Trim the black and silence at both ends', portion },
  };
};

/** A picture that stands still for long may be a fault, or a card. */
export const adviseOnFrozen: Advise = ({ facts, clock, findings }) => {
  const longest = findings?.frozen.toSorted((a, b) => b.outFrame - b.inFrame - (a.outFrame - a.inFrame))[0];
  if (!longest) return null;
  const seconds = secondsOf(longest, clock);
  return {
    code: 'frozen',
    severity: 'note',
    places: [longest.inFrame],
    message: `The picture stands still for ${seconds.toFixed(1)} s from ${positionsOf(facts, clock).name(longest.inFrame)}; that is a card, or a fault.`,
    remedy: 'Look at it; a still picture costs next to nothing.',
  };
};

/** A file that is small already and plays anywhere need not be encoded at all. */
export const adviseOnSmallSource: Advise = ({ facts, findings }) => {
  const { video, bytes, durationSeconds } = facts;
  if (!video || video.bitDepth > 8 || video.chroma !== '4:2:0') return null;
  // Small and played by every browser.
  if (!isVideoCodec(video.codec) || !VIDEO[video.codec].playsEverywhere) return null;
  const rate = (bytes * 8) / durationSeconds;
  if (rate > (facts.height > SD_MAX_HEIGHT ? WEB_BITS_PER_SECOND.hd : WEB_BITS_PER_SECOND.sd)) return null;
  const container = copyContainer(facts);
  return {
    code: 'already-small',
    severity: 'note',
    message: `At ${(rate / 1e6).toFixed(1)} Mb/s this is already a web file; encoding it again only loses quality.`,
    remedy: 'If it is within the cap, its streams can be sent as they are.',
    // A copy would carry the damage along, and fail its checks.
    ...(container && CONTAINER[container].playsInBrowsers && !findings?.damaged.length
      ? { fix: { kind: 'copy', label: 'Copy its streams instead of encoding', container } }
      : {}),
  };
};
