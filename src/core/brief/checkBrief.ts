import { CONTAINER } from '../container/containers.ts';
import type { Container } from '../container/names.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { SOUND, soundCodecOf } from '../sound/codecs.ts';
import { nameLevel, writeLevel, type SoundLevel } from '../sound/loudness.ts';
import { isVideoCodec, VIDEO } from '../video/codecs.ts';
import { isWithinRate } from '../timing/frameRate.ts';
import { toNumber } from '../timing/rational.ts';
import type { Brief } from './brief.ts';
import { shapeOf } from '../geometry/frameSize.ts';
import { isShape } from './limits.ts';

/** One rule of a brief against a file. */
export interface BriefCheck {
  readonly name: string;
  readonly ok: boolean;
  readonly expected: string;
  readonly found: string;
}

/** What is known of a finished file, as it was read back. */
export interface MeasuredFile {
  readonly name: string;
  readonly container: Container;
  readonly bytes: number;
  readonly facts: ProgrammeFacts;
  /** What the picture's packets weigh; 0 without one. */
  readonly pictureBytes: number;
  /** Of its first sound, in LUFS and dBTP; null where it was not asked for, or there is no sound. */
  readonly loudness: SoundLevel | null;
}

const kbps = (bytes: number, seconds: number) => (bytes * 8) / seconds / 1000;
const listed = (names: readonly string[]) => names.join(', ');
const whole = (value: number) => Math.round(value).toLocaleString('en');

/** Every rule that a receiver has, passed or failed with its figure. */
export function checkBrief(brief: Brief, file: MeasuredFile): BriefCheck[] {
  return [
    ...checkFile(brief, file),
    ...checkPicture(brief, file),
    ...checkSound(brief, file),
    ...checkLoudness(brief, file),
  ];
}

function* checkFile(brief: Brief, { name, container, bytes, facts }: MeasuredFile): Generator<BriefCheck> {
  const { durationSeconds: seconds } = facts;
  const { maxBytes, maxTotalKbps, containers, minSeconds, maxSeconds, plainName, picture } = brief;
  if (maxBytes !== null) yield atMost('Size', maxBytes, bytes, 'bytes');
  if (maxTotalKbps !== null) yield atMost('Rate of all', maxTotalKbps, kbps(bytes, seconds), 'kb/s');
  if (containers) {
    const names = containers.map((one) => CONTAINER[one].name);
    yield {
      name: 'Container',
      ok: containers.includes(container),
      expected: listed(names),
      found: CONTAINER[container].name,
    };
  }
  if (picture !== null) {
    const [expected, found] = [picture, facts.video !== null].map((has) => (has ? 'a picture' : 'sound alone'));
    yield { name: 'Picture', ok: expected === found, expected: expected ?? '', found: found ?? '' };
  }
  if (maxSeconds !== null) yield atMost('Length', maxSeconds, seconds, 's', 3);
  if (minSeconds !== null) {
    yield {
      name: 'Length',
      ok: seconds >= minSeconds,
      expected: `at least ${minSeconds} s`,
      found: `${seconds.toFixed(3)} s`,
    };
  }
  if (plainName) {
    const ok = /^[A-Za-z0-9_-]+\.[A-Za-z0-9]+$/.test(name);
    yield { name: 'File name', ok, expected: 'letters, digits, - and _ alone', found: name };
  }
}

function* checkPicture(brief: Brief, { facts, pictureBytes }: MeasuredFile): Generator<BriefCheck> {
  const { video, width, height, frameRate, durationSeconds } = facts;
  if (!video) return;
  const { maxWidth, maxHeight, maxFrameRate, codecs, plainPixels, maxLevel, maxKeyframeSeconds, maxPictureKbps } =
    brief;
  const rate = toNumber(frameRate);
  if (maxPictureKbps !== null) {
    yield atMost('Rate of the picture', maxPictureKbps, kbps(pictureBytes, durationSeconds), 'kb/s');
  }
  if (maxWidth !== null) yield atMost('Width', maxWidth, width, 'pixels');
  if (maxHeight !== null) yield atMost('Height', maxHeight, height, 'pixels');
  if (brief.shape) {
    const { num, den } = brief.shape;
    const found = shapeOf({ width, height }, video.pixelAspect);
    const ok = isShape(found, brief.shape);
    yield { name: 'Shape', ok, expected: `${num}:${den}`, found: `${found.toFixed(3)} to 1` };
  }
  if (maxFrameRate) {
    const most = toNumber(maxFrameRate);
    yield {
      name: 'Frame rate',
      ok: isWithinRate(rate, maxFrameRate),
      expected: `at most ${most} fps`,
      found: `${rate.toFixed(3)} fps`,
    };
  }
  if (codecs) {
    const found = isVideoCodec(video.codec) ? VIDEO[video.codec].name : video.codec;
    const ok = codecs.some((one) => one === video.codec);
    yield { name: 'Picture codec', ok, expected: listed(codecs.map((one) => VIDEO[one].name)), found };
  }
  if (plainPixels) {
    const ok = video.bitDepth === 8 && video.chroma === '4:2:0';
    yield {
      name: 'Pixels',
      ok,
      expected: '8 bits, 4:2:0',
      found: `${video.bitDepth} bits, ${video.chroma ?? 'not told'}`,
    };
  }
  if (maxLevel !== null) {
    const ok = video.level !== null && Number(video.level) <= Number(maxLevel);
    yield { name: 'Level', ok, expected: `at most ${maxLevel}`, found: video.level ?? 'not told' };
  }
  if (maxKeyframeSeconds !== null) {
    const frames = video.keyframeDistance?.most ?? facts.frameCount;
    yield atMost('Keyframes apart', maxKeyframeSeconds, frames / rate, 's', 2);
  }
}

function* checkLoudness({ loudness: wanted }: Brief, { loudness }: MeasuredFile): Generator<BriefCheck> {
  if (!wanted || !loudness) return;
  const { lufs, within, maxTruePeakDbtp } = wanted;
  yield {
    name: 'Loudness',
    // To the tenth that it is told in.
    ok: Math.abs(loudness.lufs - lufs) <= within + 0.05,
    expected: `${nameLevel(lufs)} LUFS, ± ${within} LU`,
    found: Number.isFinite(loudness.lufs) ? `${writeLevel(loudness.lufs)} LUFS` : 'silent',
  };
  if (maxTruePeakDbtp !== null) {
    yield {
      name: 'True peak',
      ok: loudness.truePeakDbtp <= maxTruePeakDbtp + 0.05,
      expected: `at most ${nameLevel(maxTruePeakDbtp)} dBTP`,
      found: Number.isFinite(loudness.truePeakDbtp) ? `${writeLevel(loudness.truePeakDbtp)} dBTP` : 'silent',
    };
  }
}

function* checkSound(brief: Brief, { facts }: MeasuredFile): Generator<BriefCheck> {
  const { soundCodecs, maxSoundKbps, maxChannels } = brief;
  for (const [index, track] of facts.audio.entries()) {
    const which = facts.audio.length > 1 ? ` of track ${index + 1}` : '';
    const codec = soundCodecOf(track.codec);
    if (soundCodecs) {
      const expected = listed(soundCodecs.map((one) => SOUND[one].name));
      const ok = codec !== null && soundCodecs.includes(codec);
      yield { name: `Sound codec${which}`, ok, expected, found: codec ? SOUND[codec].name : track.codec };
    }
    if (maxSoundKbps !== null && track.bitsPerSecond !== null) {
      // Encoders vary around what they are asked.
      const found = track.bitsPerSecond / 1000;
      const ok = found <= maxSoundKbps * 1.05;
      yield {
        name: `Rate of the sound${which}`,
        ok,
        expected: `about ${maxSoundKbps} kb/s at most`,
        found: `${whole(found)} kb/s`,
      };
    }
    if (maxChannels !== null) yield atMost(`Channels${which}`, maxChannels, track.channels, '');
  }
}

function atMost(name: string, most: number, found: number, unit: string, digits = 0): BriefCheck {
  const text = digits === 0 ? whole(found) : found.toFixed(digits);
  const write = (value: string) => `${value} ${unit}`.trim();
  const limit = digits === 0 ? whole(most) : String(most);
  return { name, ok: found <= most, expected: `at most ${write(limit)}`, found: write(text) };
}
