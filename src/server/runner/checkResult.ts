import { stat } from 'node:fs/promises';
import type { Check } from '../../contract/views.ts';
import { checkBrief } from '../../core/brief/checkBrief.ts';
import type { ColourTags, ProgrammeFacts } from '../../core/programme/facts.ts';
import {
  isEncoded,
  pictureOf,
  soundsOf,
  type EncodedPicture,
  type EncodePlan,
  type PictureStream,
  type SoundStream,
} from '../../core/plan/encodePlan.ts';
import { nameLight, sameLight } from '../../core/programme/light.ts';
import { nameFormat, partsOf, type PixelFormat } from '../../core/picture/store.ts';
import { leastBufferBits } from '../../core/rate/bufferModel.ts';
import { SOUND, soundCodecOf } from '../../core/sound/codecs.ts';
import { LAYOUT_CHANNELS } from '../../core/sound/definition.ts';
import { keepsLevel, LOUDNESS_WITHIN, writeLevel } from '../../core/sound/loudness.ts';
import { SQUARE } from '../../core/geometry/frameSize.ts';
import { toNumber, type Rational } from '../../core/timing/rational.ts';
import type { Inspection } from '../../engine/engine.ts';
import type { PacketTally } from '../../engine/parsing/packets.ts';
import { findVideoStream, parseProbe } from '../../engine/parsing/probe.ts';
import { checkColour } from './checkColour.ts';
import { checkLabels } from './checkLabels.ts';
import type { CheckRequest } from './checkRequest.ts';
import { same } from './checks.ts';

/**
 * Verifies a result against its plan and its master, every check with what was expected and found.
 */
export async function checkResult(request: CheckRequest): Promise<Check[]> {
  const { plan, result } = request;
  const picture = pictureOf(plan);
  const inspection = await request.engine.inspect(result, request.signal);
  const size = (await stat(result)).size;
  const found = parseProbe(inspection.report, size, inspection.tallies).facts;
  return [
    ...checkOpening(inspection, plan),
    ...(picture ? checkPicture(inspection, found, picture, plan, request.decodedFrames) : []),
    ...soundsOf(plan).flatMap((sound, number) => checkSound(inspection, plan, sound, number)),
    ...checkLabels(plan, found),
    ...(await checkLevels(request)),
    ...(picture ? [checkTags(request, picture, found), ...checkLight(picture, found)] : []),
    ...(picture ? [await checkColour(request, picture, found)] : []),
    ...checkSize(plan, size),
    ...(picture && isEncoded(picture) ? await checkBuffer(request, picture) : []),
    ...(await checkReceiver(request, inspection, found, size)),
  ];
}

function checkOpening({ report }: Inspection, plan: EncodePlan): Check[] {
  // Chapters and timecode are tracks too in some containers.
  const shown = (report.streams ?? []).filter(({ codec_type: kind }) => kind === 'video' || kind === 'audio');
  const kinds = shown.map((stream) => {
    const stored = stream.codec_name ?? '?';
    return soundCodecOf(stored) ?? stored;
  });
  return [same('Opens', plan.streams.map(({ do: { codec } }) => codec).join(' and '), kinds.join(' and '))];
}

function checkPicture(
  inspection: Inspection,
  found: ProgrammeFacts,
  { do: work, out }: PictureStream,
  plan: EncodePlan,
  decodedFrames: number | null,
): Check[] {
  const stream = findVideoStream(inspection.report);
  const tally = stream && inspection.tallies.get(stream.index);
  const frameSeconds = 1 / toNumber(out.frameRate);
  // Packets of a variable rate do not say how long the last frame is held; the movie as a whole does.
  const length = out.constantRate
    ? lengthOf(work, tally ?? undefined, frameSeconds)
    : Number(inspection.report.format?.duration);
  const longer = out.constantRate ? 0 : Math.max(0, ...soundsOf(plan).map((sound) => tailOf(sound, plan)));
  const { width, height } = out.size;
  return [
    same('Frame size', `${width} × ${height}`, `${found.width} × ${found.height}`),
    ...(work.kind === 'copy' ? [] : [checkPixels(out.format, found), checkPixelAspect(out.pixelAspect, found)]),
    same('Frames', `${out.frameCount}`, `${tally?.packets ?? 0}`),
    same('Frames that decode', `${out.frameCount}`, `${decodedFrames ?? 0}`),
    {
      name: 'Length',
      ok: Math.abs(length - plan.span.seconds) <= frameSeconds / 2 + longer + ROUNDING_SECONDS,
      expected: seconds(plan.span.seconds),
      found: seconds(length),
    },
    ...(out.constantRate
      ? []
      : [near('Last frame begins', out.lastFrame.atSeconds, lastTime(tally), frameSeconds / 2)]),
  ];
}

/** Of sums of times. */
const ROUNDING_SECONDS = 1e-6;

/** How far a sound may reach beyond its picture at either end, in seconds: packets are whole, and encoders add some. */
function tailOf({ do: { codec }, out }: SoundStream, { container }: EncodePlan): number {
  const { packetSamples, leadSeconds, tailSeconds } = SOUND[codec];
  return packetSamples / out.sampleRate + (leadSeconds[container] ?? 0) + tailSeconds;
}

/** Some codecs are read back in more bits than they were given. */
function checkPixels(format: PixelFormat, { video }: ProgrammeFacts): Check {
  const { chroma, depth, alpha } = partsOf(format);
  const isSame = video !== null && video.chroma === chroma && video.bitDepth >= depth && video.alpha === alpha;
  const found = video && `${video.bitDepth} bits, ${video.chroma ?? '?'}${video.alpha ? ' with transparency' : ''}`;
  return { name: 'Pixels', ok: isSame, expected: nameFormat(format), found: found ?? 'none' };
}

/** Players stretch a picture by what its file says of its pixels. */
function checkPixelAspect(wanted: PictureStream['out']['pixelAspect'], { video }: ProgrammeFacts): Check {
  const write = ({ num, den }: Rational) => (num === den ? 'square' : `${num}:${den}`);
  return same('Pixel aspect', write(wanted ?? SQUARE), video ? write(video.pixelAspect) : 'none');
}

function lastTime(tally: PacketTally | null | undefined): number {
  return (tally?.times.at(-1) ?? NaN) - (tally?.times[0] ?? NaN);
}

/** Readers shorten the last frame of a copy that begins later than its file does. */
function lengthOf(work: PictureStream['do'], tally: PacketTally | undefined, frameSeconds: number): number {
  if (work.kind === 'copy') return lastTime(tally) + frameSeconds;
  return tally?.endSeconds != null && tally.firstSeconds !== null ? tally.endSeconds - tally.firstSeconds : NaN;
}

/** @param number - Which of the result's sounds, from 0. */
function checkSound(inspection: Inspection, plan: EncodePlan, sound: SoundStream, number: number): Check[] {
  const { do: work, out } = sound;
  const picture = pictureOf(plan);
  const streams = inspection.report.streams ?? [];
  const stream = streams.filter((candidate) => candidate.codec_type === 'audio')[number];
  const heard = stream && inspection.tallies.get(stream.index);
  const seen = streams.find((candidate) => candidate.codec_type === 'video');
  const seenTally = seen && inspection.tallies.get(seen.index);
  // A copied picture may have times that Matroska rounded to a thousandth.
  const limit = tailOf(sound, plan) + (picture?.do.kind === 'copy' ? 0.0015 : 0.0005);
  const start = seenTally?.firstSeconds ?? 0;
  const name = nameSound(plan, number);
  if (work.kind === 'copy') {
    const length = out.samples / out.sampleRate;
    const found = (heard?.endSeconds ?? NaN) - (heard?.firstSeconds ?? NaN);
    // The packets that are underway at both ends are taken whole, and masters have packets of their own length.
    const packet = Math.max(SOUND[work.codec].packetSamples / out.sampleRate, found / (heard?.packets ?? 1));
    return [near(`${name} is as long as the master’s`, length, found, limit + packet)];
  }
  const end = (picture?.out.constantRate ? seenTally?.endSeconds : null) ?? start + plan.span.seconds;
  const against = picture ? 'the picture' : 'the master';
  return [
    ...(out.channels
      ? [
          same(
            `${name} has its channels`,
            channelsText(LAYOUT_CHANNELS[out.channels]),
            channelsText(stream?.channels ?? 0),
          ),
        ]
      : []),
    near(`${name} begins with ${against}`, start, heard?.firstSeconds ?? NaN, limit),
    near(`${name} ends with ${against}`, end, heard?.endSeconds ?? NaN, limit),
  ];
}

/** Sounds that were brought to a level are listened to as they came out. */
async function checkLevels({ engine, plan, result, signal }: CheckRequest): Promise<Check[]> {
  const checks: Check[] = [];
  for (const [number, { chain }] of soundsOf(plan).entries()) {
    const target = chain.find((step) => step.step === 'level')?.target;
    if (!target) continue;
    const heard = await engine.measureLoudness(result, number, signal);
    checks.push({
      name: `${nameSound(plan, number)} is as loud as asked`,
      ok: keepsLevel(heard, target),
      expected: `${writeLevel(target.lufs)} LUFS ± ${LOUDNESS_WITHIN} LU, peaks at most ${writeLevel(target.truePeakDbtp)} dBTP`,
      found: Number.isFinite(heard.lufs)
        ? `${writeLevel(heard.lufs)} LUFS, peaks at ${writeLevel(heard.truePeakDbtp)} dBTP`
        : 'silent, so nothing was turned up',
    });
  }
  return checks;
}

function nameSound(plan: EncodePlan, number: number): string {
  return soundsOf(plan).length > 1 ? `Sound ${number + 1}` : 'Sound';
}

/** A copy has its master's own tags; what is encoded has all four. */
function checkTags({ facts }: CheckRequest, picture: PictureStream, found: ProgrammeFacts): Check {
  const { colour, range } = picture.out;
  const expected = picture.do.kind !== 'copy' ? { ...colour, range } : facts.video?.colour;
  return same('Colour tags', nameTags(expected), nameTags(found.video?.colour));
}

/** Screens of high dynamic range go by what is told of how bright a picture gets. */
function checkLight(picture: PictureStream, { video }: ProgrammeFacts): Check[] {
  const light = isEncoded(picture) ? picture.do.light : null;
  if (!light) return [];
  const told = video?.light ?? null;
  const found = (told && nameLight(told)) || 'nothing told';
  return [{ name: 'Brightness', ok: told !== null && sameLight(light, told), expected: nameLight(light), found }];
}

function nameTags(tags: ColourTags | undefined): string {
  return [tags?.primaries, tags?.transfer, tags?.matrix, tags?.range].map((tag) => tag ?? 'not tagged').join(', ');
}

function checkSize(plan: EncodePlan, size: number): Check[] {
  const { cap } = plan.budget;
  if (cap === null) return [{ name: 'Size', ok: size > 0, expected: 'more than 0 bytes', found: bytesText(size) }];
  return [
    { name: 'Size obeys the cap', ok: size <= cap, expected: `at most ${bytesText(cap)}`, found: bytesText(size) },
  ];
}

/** A rate that is held down is checked against its own buffer, packet by packet. */
async function checkBuffer(
  { engine, result, signal }: CheckRequest,
  { do: { rate } }: EncodedPicture,
): Promise<Check[]> {
  const buffer = 'buffer' in rate ? rate.buffer : null;
  if (!buffer) return [];
  const needed = leastBufferBits(await engine.timePackets(result, signal), buffer.highest);
  const kbit = (bits: number) => `${Math.ceil(bits / 1000).toLocaleString('en')} kbit`;
  const at = `${Math.round(buffer.highest / 1000).toLocaleString('en')} kb/s`;
  return [
    {
      name: 'Rate stays within its buffer',
      ok: needed <= buffer.bits,
      expected: `at most ${kbit(buffer.bits)} at ${at}`,
      found: kbit(needed),
    },
  ];
}

/** Each rule of the receiver's, against what was measured of the file. */
async function checkReceiver(
  { brief, plan, engine, result, signal }: CheckRequest,
  { report, tallies }: Inspection,
  facts: ProgrammeFacts,
  size: number,
): Promise<Check[]> {
  if (!brief) return [];
  const seen = findVideoStream(report);
  const pictureBytes = (seen && tallies.get(seen.index)?.bytes) ?? 0;
  const isHeard = brief.brief.loudness !== null && facts.audio.length > 0;
  const loudness = isHeard ? await engine.measureLoudness(result, 0, signal) : null;
  const file = { name: brief.name, container: plan.container, bytes: size, facts, pictureBytes, loudness };
  return checkBrief(brief.brief, file).map((check) => ({ ...check, name: `Brief: ${check.name}`, ofBrief: true }));
}

function near(name: string, expected: number, found: number, limit: number): Check {
  return {
    name,
    ok: Math.abs(found - expected) <= limit,
    expected: `${seconds(expected)} ± ${(limit * 1000).toFixed(1)} ms`,
    found: seconds(found),
  };
}

function seconds(value: number): string {
  return Number.isFinite(value) ? `${value.toFixed(3)} s` : 'nothing';
}

function channelsText(count: number): string {
  return count === 1 ? '1 channel' : `${count} channels`;
}

function bytesText(value: number): string {
  return `${value.toLocaleString('en')} bytes`;
}
