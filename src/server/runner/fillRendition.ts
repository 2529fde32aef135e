import { rm, stat } from 'node:fs/promises';
import { decideFill, type FillDecision } from '../../core/budget/fillCap.ts';
import type { GroupSource } from '../../core/budget/joinGroups.ts';
import { bytesAtRate } from '../../core/budget/projections.ts';
import { aimedVideoRate, splitBudget } from '../../core/budget/splitBudget.ts';
import { FILLED_SHARE, type WeighedPass } from '../../core/budget/weighed.ts';
import type { PicturePlan, VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import { leastLevel } from '../../core/codec/levels.ts';
import type { Effort } from '../../core/codec/tables.ts';
import { bitsPerSecond, bytes, type BitsPerSecond, type Bytes } from '../../core/units.ts';
import type { JoinSource } from '../../engine/arguments/join.ts';
import { isEngineError } from '../../engine/engineError.ts';
import { areAlike, type GroupListing } from '../../engine/parsing/groups.ts';
import { readLeastRate } from '../../engine/parsing/readFailure.ts';
import { decideInWorker } from './decideInWorker.ts';
import { optionsOf, type EncodedSound, type EncodeJob, type Encoded, type PictureEncoder } from './encodeJob.ts';
import { overCap, viewFill, type Filling, type Smallest } from './filling.ts';
import { createRetoucher } from './retoucher.ts';

/** Second passes on the same first-pass statistics until the cap is met from below and filled. */
export async function fillRendition(
  job: EncodeJob,
  picture: PicturePlan,
  video: VideoEncodePlan,
  encoder: PictureEncoder,
  cap: Bytes,
  sound: EncodedSound | null,
): Promise<Encoded> {
  let made: readonly string[] = [];
  return job.journal.step(
    'filled',
    cap,
    () => made,
    async () => {
      const encoded = await fill(job, picture, video, encoder, cap, sound);
      made = [encoded.file];
      return encoded;
    },
  );
}

async function fill(
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
  const rate = aimedVideoRate(split.video, job.plan.durationSeconds);
  const fixed = bytes(split.audio + container);
  const passes: WeighedPass[] = [];
  const settings = { level: levelOf(picture, video, rate) };
  const retoucher = createRetoucher(job, encoder, settings);
  const filling: Filling = { cap, picture, passes, retouches: retoucher.retouches };
  if (rate === 0) throw overCap(filling, { file: fixed, video: null, isReached: false });

  await encoder.analyse(rate, settings);
  let reference: GroupListing | null = null;
  const runPass = async (asked: BitsPerSecond): Promise<void> => {
    const part = passes.length;
    const run = { kind: 'second', rate: asked, fill: settings } as const;
    const stage = part === 0 ? 'encode' : 'correction';
    const meanQuantiser = await encoder.encode(stage, run, part).catch((error: unknown) => {
      const least = isEngineError(error) ? readLeastRate(error.stderrTail) : null;
      if (least === null) throw error;
      if (passes.length > 0) throw overCap(filling, smallestOf(passes));
      const smallest = bytesAtRate(least, job.plan.durationSeconds);
      throw overCap(filling, { file: bytes(fixed + smallest), video: smallest, isReached: false });
    });
    const listing = await job.engine.listGroups(job.temporary(part), job.signal);
    reference ??= listing;
    const sizes = listing.groups.map((group) => group.bytes);
    const videoBytes = bytes(sizes.reduce((sum, size) => sum + size, 0));
    const fileBytes = await weigh(job.temporary(part));
    const groups = areAlike(listing, reference) ? sizes : [];
    passes.push({ fileBytes, videoBytes, asked, meanQuantiser, groups });
  };

  for (let next: FillDecision = { kind: 'again', rate }; ;) {
    switch (next.kind) {
      case 'again':
        await runPass(next.rate);
        break;
      case 'retouch':
        await retoucher.encode(next.group, next.quality, reference!);
        break;
      case 'over':
        throw overCap(filling, smallestOf(passes));
      case 'take':
        await dropOthers(job, passes, next.index);
        return { file: job.temporary(next.index), fill: viewFill(filling, next.reason, null) };
      case 'join': {
        const sources = next.sources.map((source) => fileOf(job, source, retoucher.files));
        return join(job, filling, next.sources, { sources, groups: reference!.groups, sound: sound?.file ?? null });
      }
    }
    next = await decideInWorker(decideFill, cap, video.codec, passes, retoucher.retouches);
  }
}

/** Frames an encoder holds: four in the order of a pyramid, or its frames of reference where those are more. */
const HELD_FRAMES: Readonly<Record<Effort, number>> = { fast: 4, balanced: 4, thorough: 5 };

/** A rate above the average by this much, for a while, is the level's concern; encoders count the same. */
const PEAK = 2;

function levelOf({ size, frameRate }: PicturePlan, { codec, effort }: VideoEncodePlan, rate: BitsPerSecond): string {
  return leastLevel(codec, size, frameRate, bitsPerSecond(rate * PEAK), HELD_FRAMES[effort]);
}

function smallestOf(passes: readonly WeighedPass[]): Smallest {
  const { fileBytes, videoBytes } = passes.toSorted((a, b) => a.fileBytes - b.fileBytes)[0]!;
  return { file: fileBytes, video: videoBytes, isReached: true };
}

async function weigh(file: string): Promise<Bytes> {
  return bytes((await stat(file)).size);
}

function fileOf(job: EncodeJob, { kind, index }: GroupSource, retouched: readonly string[]): JoinSource {
  return kind === 'pass'
    ? { file: job.temporary(index), holds: 'every-group' }
    : { file: retouched[index] ?? '', holds: 'this-group' };
}

/** One file of several, each group of pictures from where it was chosen. */
async function join(
  job: EncodeJob,
  filling: Filling,
  chosen: readonly GroupSource[],
  request: Pick<Parameters<EncodeJob['engine']['joinGroups']>[0], 'sources' | 'groups' | 'sound'>,
): Promise<Encoded> {
  const { cap, picture, passes } = filling;
  const part = passes.length;
  const output = job.temporary(part);
  const options = optionsOf(job, job.enter('copy', picture.frameCount));
  await job.engine.joinGroups({ ...request, picture, output }, options);
  const fileBytes = await weigh(output);
  if (fileBytes > cap) throw new Error(`The joined file is ${fileBytes} bytes, over the cap of ${cap}.`);
  await dropOthers(job, passes, part);
  const outcome = fileBytes >= cap * FILLED_SHARE ? 'filled' : 'passes-spent';
  return { file: output, fill: viewFill(filling, outcome, chosen) };
}

/** Every pass may still be joined with another until one is taken; then the others give their room back. */
async function dropOthers(job: EncodeJob, passes: readonly WeighedPass[], taken: number): Promise<void> {
  for (const part of passes.keys()) {
    if (part !== taken) await rm(job.temporary(part), { force: true });
  }
}
