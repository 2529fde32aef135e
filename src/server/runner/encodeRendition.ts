import { rm, stat } from 'node:fs/promises';
import path from 'node:path';
import type { FillView } from '../../contract/views.ts';
import { decideFill, FILLED_SHARE, type FillDecision, type WeighedPass } from '../../core/budget/fillCap.ts';
import { aimedVideoRate, splitBudget } from '../../core/budget/splitBudget.ts';
import { suggestFrameSize } from '../../core/budget/suggestFrameSize.ts';
import type { EncodePlan, PicturePlan, VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import { bytes, type BitsPerSecond, type Bytes } from '../../core/units.ts';
import type { PictureRun } from '../../engine/arguments/encode.ts';
import type { Engine, RunOptions } from '../../engine/engine.ts';
import type { GroupListing, PictureGroup } from '../../engine/parsing/groups.ts';
import { RenditionFailure } from './failure.ts';
import type { StageName } from './progress.ts';

/** What encoding one rendition works with. */
export interface EncodeJob {
  readonly engine: Engine;
  readonly plan: EncodePlan;
  readonly source: string;
  /** Statistics and the encoded sound; empty at the start. */
  readonly workingFolder: string;
  /** Names a temporary file beside the final one. */
  readonly temporary: (part: number) => string;
  readonly signal: AbortSignal;
  /** Announces a stage and gives the listener for its progress, from 0 to 1. */
  readonly enter: (stage: StageName, total: number) => RunOptions['onProgress'];
}

export interface Encoded {
  /** Temporary file holding the result. */
  readonly file: string;
  readonly fill: FillView | null;
}

/**
 * Encodes a rendition pass by pass: sound first, so that its bytes are known, then the picture.
 *
 * @throws RenditionFailure `cap-below-floor` when the cap cannot be met.
 * @throws EngineError as the engine does.
 */
export async function encodeRendition(job: EncodeJob): Promise<Encoded> {
  const { plan } = job;
  if (plan.picture && plan.video?.rate.kind === 'copied') return copyStreams(job, plan.picture, plan.video);
  const sound = await encodeSound(job);
  if (!plan.picture || !plan.video) {
    if (!sound) throw new Error('A plan has neither picture nor sound.');
    return { file: sound.file, fill: null };
  }
  const picture = createPictureEncoder(job, plan.picture, plan.video, sound?.file ?? null);
  const { rate } = plan.video;
  switch (rate.kind) {
    case 'quality':
      await picture.encode('encode', { kind: 'quality', value: rate.value }, 0);
      return { file: job.temporary(0), fill: null };
    case 'average': {
      if (rate.passes === 2) await picture.analyse(rate.rate, false);
      const run = { kind: rate.passes === 2 ? 'second' : 'average', rate: rate.rate, limitQuality: false } as const;
      await picture.encode('encode', run, 0);
      return { file: job.temporary(0), fill: null };
    }
    case 'copied':
      throw new Error('A copy has no passes.');
    case 'fill':
      return fillCap(job, plan.picture, plan.video, picture, rate.cap, sound);
  }
}

async function copyStreams(job: EncodeJob, picture: PicturePlan, video: VideoEncodePlan): Promise<Encoded> {
  const output = job.temporary(0);
  const request = { picture, video, sound: job.plan.sound, source: job.source, output };
  await job.engine.copyStreams(request, optionsOf(job, job.enter('copy', picture.frameCount)));
  return { file: output, fill: null };
}

interface EncodedSound {
  readonly file: string;
  readonly bytes: Bytes;
}

async function encodeSound(job: EncodeJob): Promise<EncodedSound | null> {
  const { sound, picture } = job.plan;
  if (!sound) return null;
  // A sound-only rendition is its sound file; beside a picture it is only material.
  const file = picture ? path.join(job.workingFolder, 'sound.m4a') : job.temporary(0);
  const seconds = sound.samples / sound.sampleRate;
  await job.engine.encodeSound(sound, job.source, file, optionsOf(job, job.enter('sound', seconds)));
  const tally = [...(await job.engine.inspect(file, job.signal)).tallies.values()][0];
  return { file, bytes: bytes(tally?.bytes ?? 0) };
}

interface PictureEncoder {
  analyse(rate: BitsPerSecond, limitQuality: boolean): Promise<void>;
  encode(stage: 'encode' | 'correction', run: PictureRun, part: number): Promise<number | null>;
}

function createPictureEncoder(
  job: EncodeJob,
  picture: PicturePlan,
  video: VideoEncodePlan,
  sound: string | null,
): PictureEncoder {
  const run = async (stage: StageName, what: PictureRun, files: { sound: string | null; output: string | null }) => {
    const options = optionsOf(job, job.enter(stage, picture.frameCount));
    return job.engine.encodePicture(picture, video, what, { source: job.source, ...files }, options);
  };
  return {
    analyse: async (rate, limitQuality) => {
      await run('analysis', { kind: 'analysis', rate, limitQuality }, { sound: null, output: null });
    },
    encode: async (stage, what, part) => (await run(stage, what, { sound, output: job.temporary(part) })).meanQuantiser,
  };
}

/** Second passes on the same first-pass statistics until the cap is met from below and filled. */
async function fillCap(
  job: EncodeJob,
  picture: PicturePlan,
  video: VideoEncodePlan,
  encoder: PictureEncoder,
  cap: Bytes,
  sound: EncodedSound | null,
): Promise<Encoded> {
  // The plan's own arithmetic for this cap: frames, packets and payload are the same here.
  const { container } = job.plan.budget.split;
  const split = splitBudget(cap, sound?.bytes ?? bytes(0), container);
  let rate = aimedVideoRate(split.video, job.plan.durationSeconds);
  if (rate === 0)
    throw overCap(cap, picture, [], { kind: 'over', smallest: bytes(split.audio + container), reason: 'floor' });
  await encoder.analyse(rate, true);
  const passes: WeighedPass[] = [];
  const listings: GroupListing[] = [];
  for (;;) {
    const part = passes.length;
    const stage = part === 0 ? 'encode' : 'correction';
    const meanQuantiser = await encoder.encode(stage, { kind: 'second', rate, limitQuality: true }, part);
    const listing = await job.engine.listGroups(job.temporary(part), job.signal);
    listings.push(listing);
    const groups = listing.mark === listings[0]?.mark ? listing.groups.map((group) => group.bytes) : [];
    passes.push({ ...(await weigh(job, job.temporary(part))), asked: rate, meanQuantiser, groups });
    const decision = decideFill(cap, video.codec, passes);
    switch (decision.kind) {
      case 'over':
        throw overCap(cap, picture, passes, decision);
      case 'take':
        await dropOthers(job, passes, decision.index);
        return { file: job.temporary(decision.index), fill: viewFill(cap, passes, decision.reason, null) };
      case 'join':
        return join(job, picture, cap, passes, decision.passes, listing.groups, sound);
      case 'again':
        rate = decision.rate;
    }
  }
}

async function weigh(job: EncodeJob, file: string): Promise<{ fileBytes: Bytes; videoBytes: Bytes }> {
  const { tallies } = await job.engine.inspect(file, job.signal);
  return { fileBytes: bytes((await stat(file)).size), videoBytes: bytes(tallies.get(0)?.bytes ?? 0) };
}

/** One file of several passes, each group of pictures from the pass that was chosen for it. */
async function join(
  job: EncodeJob,
  picture: PicturePlan,
  cap: Bytes,
  passes: readonly WeighedPass[],
  chosen: readonly number[],
  groups: readonly PictureGroup[],
  sound: EncodedSound | null,
): Promise<Encoded> {
  const part = passes.length;
  const output = job.temporary(part);
  const files = passes.map((_, index) => job.temporary(index));
  const request = { picture, files, passes: chosen, groups, sound: sound?.file ?? null, output };
  await job.engine.joinGroups(request, optionsOf(job, job.enter('correction', picture.frameCount)));
  const { fileBytes } = await weigh(job, output);
  if (fileBytes > cap) throw new Error(`The joined file is ${fileBytes} bytes, over the cap of ${cap}.`);
  await dropOthers(job, passes, part);
  const outcome = fileBytes >= cap * FILLED_SHARE ? 'filled' : 'passes-spent';
  return { file: output, fill: viewFill(cap, passes, outcome, new Set(chosen).size) };
}

/** Every pass may still be joined with another until one is taken; then the others give their room back. */
async function dropOthers(job: EncodeJob, passes: readonly WeighedPass[], taken: number): Promise<void> {
  for (const part of passes.keys()) {
    if (part !== taken) await rm(job.temporary(part), { force: true });
  }
}

function overCap(
  cap: Bytes,
  picture: PicturePlan,
  passes: readonly WeighedPass[],
  decision: Extract<FillDecision, { kind: 'over' }>,
): RenditionFailure {
  const least = [...passes].sort((a, b) => a.fileBytes - b.fileBytes)[0];
  const fixed = least ? least.fileBytes - least.videoBytes : decision.smallest;
  const smaller = least ? suggestFrameSize(picture.size, least.videoBytes, cap - fixed) : null;
  const remedy = smaller
    ? `At ${smaller.width} × ${smaller.height} it should fit`
    : 'No smaller frame size would fit either; lower the sound rate, leave the sound out';
  const message = `The cap of ${cap.toLocaleString('en')} bytes was not reached: the smallest file at ${picture.size.width} × ${picture.size.height} was ${decision.smallest.toLocaleString('en')} bytes. ${remedy}, or allow more bytes.`;
  return new RenditionFailure({ code: 'cap-below-floor', message }, { fill: viewFill(cap, passes, 'over', null) });
}

function viewFill(
  cap: Bytes,
  passes: readonly WeighedPass[],
  outcome: FillView['outcome'],
  joinedFrom: number | null,
): FillView {
  return {
    cap,
    outcome,
    joinedFrom,
    secondPasses: passes.map((pass) => ({
      kbps: pass.asked / 1000,
      bytes: pass.fileBytes,
      meanQuantiser: pass.meanQuantiser,
    })),
  };
}

function optionsOf(job: EncodeJob, onProgress: RunOptions['onProgress']): RunOptions {
  return { workingFolder: job.workingFolder, signal: job.signal, onProgress };
}
