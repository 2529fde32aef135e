import { STEP_SECONDS } from '../../core/analysis/measured.ts';

/** What was counted of one stream's packets. */
export interface PacketTally {
  readonly packets: number;
  readonly bytes: number;
  readonly keyframes: number;
  /** In seconds on the file's clock; null when the container gives no time. */
  readonly firstSeconds: number | null;
  readonly endSeconds: number | null;
  /** Sorted times of all shown packets, in seconds; empty unless asked for. */
  readonly times: readonly number[];
  /** Sorted times of the keyframes among them. */
  readonly keyframeTimes: readonly number[];
  /** Of the keyframes, those after which nothing is shown that lies before them in time: a copy may begin there. */
  readonly cutTimes: readonly number[];
  /** Whether times begin anew on the way, as where recordings were put behind one another. */
  readonly beginsAnew: boolean;
  /** Bytes of the packets due in each half second from the first one on; empty unless times were asked for. */
  readonly bytesByStep: readonly number[];
}

/** Two days: a stamp beyond that is a fault, and must not cost memory. */
const MOST_STEPS = (48 * 3600) / STEP_SECONDS;

/** A frame is stored behind fewer than so many that are shown after it; a second of sound behind none. */
const MOST_REORDERED = 32;
const MOST_EARLIER_SECONDS = 1;

/** One packet as the engine lists it; a field it does not know is left out. */
export interface ListedPacket {
  readonly codec_type?: string;
  readonly stream_index: number;
  readonly pts_time?: string;
  readonly duration_time?: string;
  readonly size?: string;
  readonly flags?: string;
}

/**
 * Counts packets. Those the container marks as not to be shown (run-in before an edit) weigh but are not counted; the
 * times of pictures are kept, to tell a constant rate from a variable one.
 *
 * @param lost - Pictures that cannot be decoded, by their time on the file's clock in seconds: they weigh alone as well.
 */
export function createPacketTally(lost: ReadonlySet<number> = new Set()): {
  readonly add: (packet: ListedPacket) => void;
  readonly tallies: () => Map<number, PacketTally>;
} {
  const open = new Map<number, OpenTally>();
  return {
    add: (packet) => {
      const tally = open.get(packet.stream_index) ?? emptyTally();
      open.set(packet.stream_index, tally);
      addPacket(tally, packet, packet.codec_type === 'video', lost);
    },
    tallies: () => new Map(Array.from(open, ([stream, tally]) => [stream, closeTally(tally)])),
  };
}

interface OpenTally {
  packets: number;
  bytes: number;
  keyframes: number;
  first: number;
  end: number;
  beginsAnew: boolean;
  times: number[];
  keyframeTimes: number[];
  openKeyframes: Set<number>;
  sizes: number[];
}

function emptyTally(): OpenTally {
  return {
    packets: 0,
    bytes: 0,
    keyframes: 0,
    first: Infinity,
    end: -Infinity,
    beginsAnew: false,
    times: [],
    keyframeTimes: [],
    openKeyframes: new Set(),
    sizes: [],
  };
}

function addPacket(tally: OpenTally, packet: ListedPacket, isPicture: boolean, lost: ReadonlySet<number>): void {
  const { flags = '' } = packet;
  const [pts, duration, size] = [packet.pts_time, packet.duration_time, packet.size].map(Number) as [
    number,
    number,
    number,
  ];
  tally.bytes += Number.isFinite(size) ? size : 0;
  if (flags.includes('D') || (isPicture && lost.has(pts))) return;
  tally.packets += 1;
  if (flags.includes('K')) tally.keyframes += 1;
  if (!Number.isFinite(pts)) return;
  const before = isPicture ? (tally.times.at(-MOST_REORDERED) ?? -Infinity) : tally.end;
  if (pts < before - MOST_EARLIER_SECONDS) tally.beginsAnew = true;
  tally.first = Math.min(tally.first, pts);
  tally.end = Math.max(tally.end, pts + (Number.isFinite(duration) ? duration : 0));
  if (!isPicture) return;
  tally.times.push(pts);
  tally.sizes.push(Number.isFinite(size) ? size : 0);
  const keyframe = tally.keyframeTimes.at(-1);
  if (flags.includes('K')) tally.keyframeTimes.push(pts);
  else if (keyframe !== undefined && pts < keyframe) tally.openKeyframes.add(keyframe);
}

function addUpSteps(tally: OpenTally): number[] {
  const steps: number[] = [];
  tally.times.forEach((time, index) => {
    const step = Math.floor((time - tally.first) / STEP_SECONDS + 1e-6);
    if (step >= MOST_STEPS) return;
    while (steps.length <= step) steps.push(0);
    steps[step] = (steps[step] ?? 0) + (tally.sizes[index] ?? 0);
  });
  return steps;
}

function closeTally(tally: OpenTally): PacketTally {
  return {
    packets: tally.packets,
    bytes: tally.bytes,
    keyframes: tally.keyframes,
    firstSeconds: Number.isFinite(tally.first) ? tally.first : null,
    endSeconds: Number.isFinite(tally.end) ? tally.end : null,
    beginsAnew: tally.beginsAnew,
    // Added up before the times are sorted: packets come in coding order.
    bytesByStep: addUpSteps(tally),
    times: tally.times.sort((a, b) => a - b),
    cutTimes: tally.keyframeTimes.filter((time) => !tally.openKeyframes.has(time)).sort((a, b) => a - b),
    keyframeTimes: tally.keyframeTimes.sort((a, b) => a - b),
  };
}

/** The frames, counted from the first that is shown, at which a copy may begin. */
export function cutFrames({ times, cutTimes }: Pick<PacketTally, 'times' | 'cutTimes'>): number[] {
  const frames: number[] = [];
  let next = 0;
  times.forEach((time, frame) => {
    if (time !== cutTimes[next]) return;
    frames.push(frame);
    next += 1;
  });
  return frames;
}
