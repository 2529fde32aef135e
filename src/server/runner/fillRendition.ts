import { rm, stat } from 'node:fs/promises';
import { decideFill, type FillDecision } from '../../core/budget/fillCap.ts';
import type { GroupSource } from '../../core/budget/groupStock.ts';
import { aimedVideoRate, splitBudget } from '../../core/budget/splitBudget.ts';
import { FILLED_SHARE, type WeighedPass } from '../../core/budget/weighed.ts';
import type { EncodedPicture } from '../../core/plan/encodePlan.ts';
import { bitsPerSecond, bytes, type Bytes } from '../../core/units.ts';
import type { JoinSource } from '../../engine/arguments/join.ts';
import { RATED } from '../../core/video/codecs.ts';
import type { QualityScale } from '../../core/video/definition.ts';
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

  const first = startingQuality(picture, scale);
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

  // A joined file may take more around its groups than a whole encode does: then that is kept free.
  let room = cap;
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
        const joined = await join(job, filling, next.sources, { sources, groups: reference!.groups, sound });
        if (joined.fileBytes <= cap) return joined;
        room = bytes(room - (joined.fileBytes - cap));
      }
    }
    const { retouches } = retoucher;
    const told = await losses(cap, reference!);
    next = await decideInWorker(decideFill, { cap: room, scale, passes, retouches, losses: told });
  }
}

/** As the plan foresaw it, where the picture was sounded. */
function startingQuality({ do: { rate } }: EncodedPicture, scale: QualityScale): number {
  return toStep(scale, (rate.kind === 'fill' ? rate.quality : null) ?? scale.usual);
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

/** One file of several, each group of pictures from where it was chosen; taken only if it is under the cap. */
async function join(
  job: EncodeJob,
  filling: Filling,
  chosen: readonly GroupSource[],
  request: Pick<Parameters<EncodeJob['engine']['joinGroups']>[0], 'sources' | 'groups' | 'sound'>,
): Promise<Encoded & { readonly fileBytes: Bytes }> {
  const { cap, out, passes } = filling;
  const part = passes.length;
  const output = job.temporary(part);
  const options = optionsOf(job, job.enter('copy', out.frameCount));
  await job.engine.joinGroups({ ...request, out, container: job.plan.container, output }, options);
  const fileBytes = await weigh(output);
  if (fileBytes <= cap) await dropOthers(job, passes, part);
  const outcome = fileBytes >= cap * FILLED_SHARE ? 'filled' : 'passes-spent';
  const frames = request.groups.map((group) => group.frames);
  return { file: output, fileBytes, fill: viewFill(filling, outcome, { sources: chosen, frames }) };
}

/** Every pass may still be joined with another until one is taken; then the others give their room back. */
async function dropOthers(job: EncodeJob, passes: readonly WeighedPass[], taken: number): Promise<void> {
  for (const part of passes.keys()) {
    if (part !== taken) await rm(job.temporary(part), { force: true });
  }
}
