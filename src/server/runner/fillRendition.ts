import { rm, stat } from 'node:fs/promises';
import { decideFill, type FillDecision } from '../../core/budget/fillCap.ts';
import type { GroupSource } from '../../core/budget/groupStock.ts';
import { aimedVideoRate, splitBudget } from '../../core/budget/splitBudget.ts';
import { FILLED_SHARE, type WeighedPass } from '../../core/budget/weighed.ts';
import type { EncodedPicture, PictureFacts } from '../../core/plan/encodePlan.ts';
import { bitsPerSecond, bytes, type Bytes } from '../../core/units.ts';
import type { JoinSource } from '../../engine/arguments/join.ts';
import { RATED } from '../../core/video/codecs.ts';
import { toStep } from '../../core/video/qualityStep.ts';
import { areAlike, type GroupListing } from '../../engine/parsing/groups.ts';
import { decideInWorker } from './decideInWorker.ts';
import { optionsOf, type EncodeJob, type Encoded, type PictureEncoder, type WeighedSound } from './encodeJob.ts';
import { overCap, viewFill, type Filling, type Smallest } from './filling.ts';
import { createLosses } from './groupLosses.ts';
import { markedLevel } from './pictureEncoder.ts';
import { createRetoucher } from './retoucher.ts';

/** What filling a size works with. */
export interface FillRequest {
  readonly job: EncodeJob;
  readonly picture: EncodedPicture;
  readonly encoder: PictureEncoder;
  readonly cap: Bytes;
  readonly sound: WeighedSound | null;
}

/** Encodes the whole near the cap, and then groups of pictures again, until the cap is filled and never gone over. */
export async function fillRendition(request: FillRequest): Promise<Encoded> {
  let made: readonly string[] = [];
  return request.job.journal.step(
    'filled',
    request.cap,
    () => made,
    async () => {
      const encoded = await fill(request);
      made = [encoded.file];
      return encoded;
    },
  );
}

async function fill({ job, picture, encoder, cap, sound }: FillRequest): Promise<Encoded> {
  // The plan's own arithmetic for this cap: frames, packets and payload are the same here.
  const { container } = job.plan.budget.split;
  const { quality: scale } = RATED[picture.do.codec];
  const split = splitBudget(cap, sound?.bytes ?? bytes(0), container);
  const rate = aimedVideoRate(split.video, job.plan.span.seconds);
  const fixed = bytes(split.audio + container);
  const passes: WeighedPass[] = [];
  const settings = { level: markedLevel(picture, bitsPerSecond(rate * PEAK)) };
  const retoucher = createRetoucher(job, picture, encoder, settings);
  const filling: Filling = { cap, out: picture.out, passes, retouches: retoucher.retouches };
  if (rate === 0) throw overCap(filling, { file: fixed, video: null });

  const { quality = null, foreseen = [] } = picture.do.rate.kind === 'fill' ? picture.do.rate : {};
  // As the plan foresaw it, where the picture was sounded.
  const first = toStep(scale, quality ?? scale.usual);
  const target = (value: number) => ({ kind: 'quality', value }) as const;
  if (scale.passes === 2) await encoder.analyse({ target: target(first), buffer: null, fill: settings });
  let reference: GroupListing | null = null;
  const runPass = async (quality: number): Promise<void> => {
    const part = passes.length;
    const pass = scale.passes === 2 ? 'second' : 'only';
    const stage = part === 0 ? 'encode' : 'correction';
    await encoder.encode(stage, { target: target(quality), pass, buffer: null, fill: settings }, part);
    const listing = await job.engine.listGroups(job.temporary(part), job.signal);
    reference ??= listing;
    const sizes = listing.groups.map((group) => group.bytes);
    const videoBytes = bytes(sizes.reduce((sum, size) => sum + size, 0));
    const fileBytes = await weigh(job.temporary(part));
    passes.push({ fileBytes, videoBytes, quality, groups: areAlike(listing, reference) ? sizes : [] });
  };
  const losses = createLosses(job, picture, passes);

  let joins = 0;
  let joinedMore = 0;
  for (let next: FillDecision = { kind: 'again', quality: first }; ;) {
    switch (next.kind) {
      case 'again':
        await runPass(next.quality);
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
        const request = { sources, groups: reference!.groups, sound, output: job.temporary(passes.length) };
        const fileBytes = await join(job, filling.out, request);
        joins += 1;
        const isFilled = fileBytes >= cap * FILLED_SHARE;
        if (fileBytes <= cap && (isFilled || next.reason !== 'filled' || joins > 1)) {
          await dropOthers(job, passes, passes.length);
          const outcome = isFilled ? 'filled' : next.reason === 'saturated' ? 'saturated' : 'passes-spent';
          const frames = reference!.groups.map((group) => group.frames);
          return { file: request.output, fill: viewFill(filling, outcome, { sources: next.sources, frames }) };
        }
        joinedMore += fileBytes - next.fileBytes + (joins - 1) * SLACK;
      }
    }
    const { retouches } = retoucher;
    const told = await losses(cap, reference!);
    next = await decideInWorker(decideFill, { cap, scale, foreseen, passes, retouches, losses: told, joinedMore });
  }
}

/** A rate above the average by this much, for a while, is the level's concern; encoders count the same. */
const PEAK = 2;

function smallestOf(passes: readonly WeighedPass[]): Smallest {
  const { fileBytes, videoBytes } = passes.toSorted((a, b) => a.fileBytes - b.fileBytes)[0]!;
  return { file: fileBytes, video: videoBytes };
}

async function weigh(file: string): Promise<Bytes> {
  return bytes((await stat(file)).size);
}

function fileOf(job: EncodeJob, { kind, index }: GroupSource, retouched: readonly string[]): JoinSource {
  return kind === 'pass'
    ? { file: job.temporary(index), holds: 'every-group' }
    : { file: retouched[index] ?? '', holds: 'this-group' };
}

/** What more is kept free each time that a joined file comes out over the cap once more, in bytes. */
const SLACK = 64;

/**
 * One file of several, each group of pictures from where it was chosen.
 *
 * @returns What it weighs.
 */
async function join(
  job: EncodeJob,
  out: PictureFacts,
  request: Omit<Parameters<EncodeJob['engine']['joinGroups']>[0], 'out' | 'container' | 'labels'>,
): Promise<Bytes> {
  const { labels } = job;
  const { container } = job.plan;
  const options = optionsOf(job, job.enter('copy', out.frameCount));
  await job.engine.joinGroups({ ...request, out, container, labels }, options);
  return weigh(request.output);
}

/** Every pass may still be joined with another until one, or a joined file, is taken; then the others give their room back. */
async function dropOthers(job: EncodeJob, passes: readonly WeighedPass[], taken: number): Promise<void> {
  for (let part = 0; part <= passes.length; part += 1) {
    if (part !== taken) await rm(job.temporary(part), { force: true });
  }
}
