import { stat } from 'node:fs/promises';
import type { Check } from '../../contract/views.ts';
import { AAC_FRAME_SAMPLES } from '../../core/codec/tables.ts';
import type { ColourTags, ProgrammeFacts } from '../../core/programme/facts.ts';
import type { EncodePlan, PicturePlan } from '../../core/rate/encodePlan.ts';
import { toNumber } from '../../core/timing/rational.ts';
import type { Inspection } from '../../engine/engine.ts';
import type { PacketTally } from '../../engine/parsing/packets.ts';
import { findVideoStream, parseProbe } from '../../engine/parsing/probe.ts';
import { checkColour } from './checkColour.ts';
import type { CheckRequest } from './checkRequest.ts';

/**
 * Verifies a result against its plan and its master, every check with what was expected and found.
 */
export async function checkResult(request: CheckRequest): Promise<Check[]> {
  const { plan, result } = request;
  const inspection = await request.engine.inspect(result, request.signal);
  const size = (await stat(result)).size;
  const found = parseProbe(inspection.report, size, inspection.tallies).facts;
  return [
    ...checkOpening(inspection, plan),
    ...(plan.picture ? checkPicture(inspection, found, plan.picture, plan, request.decodedFrames) : []),
    ...(plan.sound ? checkSound(inspection, plan) : []),
    ...(plan.picture ? [checkTags(request, plan.picture, found)] : []),
    ...(plan.picture ? [await checkColour(request, plan.picture, found)] : []),
    ...checkSize(plan, size),
  ];
}

function checkOpening({ report }: Inspection, plan: EncodePlan): Check[] {
  const kinds = (report.streams ?? []).map((stream) => stream.codec_name ?? '?').join(' and ');
  const expected = [plan.video?.codec, plan.sound?.codec].filter(Boolean).join(' and ');
  return [{ name: 'Opens', ok: kinds === expected, expected, found: kinds }];
}

function checkPicture(
  inspection: Inspection,
  found: ProgrammeFacts,
  picture: PicturePlan,
  plan: EncodePlan,
  decodedFrames: number | null,
): Check[] {
  const stream = findVideoStream(inspection.report);
  const tally = stream && inspection.tallies.get(stream.index);
  // Packets of a variable rate do not say how long the last frame is held; the movie as a whole does.
  const length = picture.constantRate ? lengthOf(tally ?? undefined) : Number(inspection.report.format?.duration);
  const frameSeconds = 1 / toNumber(picture.frameRate);
  const { width, height } = picture.size;
  return [
    same('Frame size', `${width} × ${height}`, `${found.width} × ${found.height}`),
    same('Frames', `${picture.frameCount}`, `${tally?.packets ?? 0}`),
    same('Frames that decode', `${picture.frameCount}`, `${decodedFrames ?? 0}`),
    {
      name: 'Length',
      ok: Math.abs(length - plan.durationSeconds) <= frameSeconds / 2,
      expected: seconds(plan.durationSeconds),
      found: seconds(length),
    },
    ...(picture.constantRate
      ? []
      : [near('Last frame begins', picture.lastFrame.atSeconds, lastTime(tally), frameSeconds / 2)]),
  ];
}

function lastTime(tally: PacketTally | null | undefined): number {
  return (tally?.times.at(-1) ?? NaN) - (tally?.times[0] ?? NaN);
}

function lengthOf(tally: PacketTally | undefined): number {
  return tally?.endSeconds != null && tally.firstSeconds !== null ? tally.endSeconds - tally.firstSeconds : NaN;
}

function checkSound(inspection: Inspection, plan: EncodePlan): Check[] {
  const { sound, picture } = plan;
  const streams = inspection.report.streams ?? [];
  const stream = streams.find((candidate) => candidate.codec_type === 'audio');
  const heard = stream && inspection.tallies.get(stream.index);
  const seen = streams.find((candidate) => candidate.codec_type === 'video');
  const seenTally = seen && inspection.tallies.get(seen.index);
  const limit = AAC_FRAME_SAMPLES / (sound?.sampleRate ?? 48000) + 0.0005;
  const start = seenTally?.firstSeconds ?? 0;
  if (sound && plan.video?.rate.kind === 'copied') {
    const length = sound.samples / sound.sampleRate;
    const found = (heard?.endSeconds ?? NaN) - (heard?.firstSeconds ?? NaN);
    return [near('Sound is as long as the master’s', length, found, limit)];
  }
  const end = (picture?.constantRate ? seenTally?.endSeconds : null) ?? start + plan.durationSeconds;
  const against = picture ? 'the picture' : 'the master';
  return [
    near(`Sound begins with ${against}`, start, heard?.firstSeconds ?? NaN, limit),
    near(`Sound ends with ${against}`, end, heard?.endSeconds ?? NaN, limit),
  ];
}

/** A copy has its master's own tags; what is encoded has all four. */
function checkTags({ plan, facts }: CheckRequest, { colour }: PicturePlan, found: ProgrammeFacts): Check {
  const isCopy = plan.video?.rate.kind === 'copied';
  const expected = isCopy ? facts.video?.colour : { ...colour, range: 'limited' as const };
  return same('Colour tags', nameTags(expected), nameTags(found.video?.colour));
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

function same(name: string, expected: string, found: string): Check {
  return { name, ok: expected === found, expected, found };
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

function bytesText(value: number): string {
  return `${value.toLocaleString('en')} bytes`;
}
