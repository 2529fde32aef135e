import { rm, stat } from 'node:fs/promises';
import type { FillView } from '../../contract/views.ts';
import { decideFill } from '../../core/budget/fillCap.ts';
import { FILLED_SHARE, type WeighedPass } from '../../core/budget/joinPasses.ts';
import { aimedVideoRate, splitBudget } from '../../core/budget/splitBudget.ts';
import { bytesAtRate } from '../../core/budget/projections.ts';
import { suggestFrameSize } from '../../core/budget/suggestFrameSize.ts';
import type { PicturePlan, VideoEncodePlan } from '../../core/rate/encodePlan.ts';
import { bytes, type Bytes } from '../../core/units.ts';
import { isEngineError } from '../../engine/engineError.ts';
import { readLeastRate } from '../../engine/parsing/readFailure.ts';
import type { GroupListing, PictureGroup } from '../../engine/parsing/groups.ts';
import { optionsOf, type EncodedSound, type EncodeJob, type Encoded, type PictureEncoder } from './encodeJob.ts';
import { RenditionFailure } from './failure.ts';

/** Second passes on the same first-pass statistics until the cap is met from below and filled. */
export async function fillRendition(
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
  const fixed = bytes(split.audio + container);
  if (rate === 0) throw overCap(cap, picture, [], { file: fixed, video: null, isReached: false });
  await encoder.analyse(rate, true);
  const passes: WeighedPass[] = [];
  const listings: GroupListing[] = [];
  for (;;) {
    const part = passes.length;
    const stage = part === 0 ? 'encode' : 'correction';
    const run = { kind: 'second', rate, limitQuality: true } as const;
    const meanQuantiser = await encoder.encode(stage, run, part).catch((error: unknown) => {
      const least = isEngineError(error) ? readLeastRate(error.stderrTail) : null;
      if (least === null) throw error;
      const video = bytesAtRate(least, job.plan.durationSeconds);
      throw overCap(cap, picture, passes, { file: bytes(fixed + video), video, isReached: false });
    });
    const listing = await job.engine.listGroups(job.temporary(part), job.signal);
    listings.push(listing);
    const groups = listing.mark === listings[0]?.mark ? listing.groups.map((group) => group.bytes) : [];
    const videoBytes = bytes(listing.groups.reduce((sum, group) => sum + group.bytes, 0));
    const fileBytes = await weigh(job.temporary(part));
    passes.push({ fileBytes, videoBytes, asked: rate, meanQuantiser, groups });
    const decision = decideFill(cap, video.codec, passes);
    switch (decision.kind) {
      case 'over':
        throw overCap(cap, picture, passes, reached(passes[decision.smallest]!));
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

async function weigh(file: string): Promise<Bytes> {
  return bytes((await stat(file)).size);
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
  const fileBytes = await weigh(output);
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

/** The smallest file there could be; `video` is its picture, where the encoder got as far as that. */
interface Smallest {
  readonly file: Bytes;
  readonly video: Bytes | null;
  readonly isReached: boolean;
}

function reached({ fileBytes, videoBytes }: WeighedPass): Smallest {
  return { file: fileBytes, video: videoBytes, isReached: true };
}

function overCap(
  cap: Bytes,
  picture: PicturePlan,
  passes: readonly WeighedPass[],
  { file, video, isReached }: Smallest,
): RenditionFailure {
  const smaller = video === null ? null : suggestFrameSize(picture.size, video, cap - (file - video));
  const remedy = smaller
    ? `At ${smaller.width} × ${smaller.height} it should fit`
    : 'No smaller frame size would fit either; lower the sound rate, leave the sound out';
  const said = `${isReached ? 'was' : 'would be about'} ${file.toLocaleString('en')} bytes`;
  const message = `The cap of ${cap.toLocaleString('en')} bytes was not reached: the smallest file at ${picture.size.width} × ${picture.size.height} ${said}. ${remedy}, or allow more bytes.`;
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
