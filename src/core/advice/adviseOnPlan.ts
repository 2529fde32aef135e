import { channelTracks } from '../programme/channelTracks.ts';
import type { Portion, ProgrammeFacts } from '../programme/facts.ts';
import { COMMON_HEIGHTS } from '../geometry/frameSize.ts';
import { isEncoded, pictureOf, soundsOf } from '../plan/encodePlan.ts';
import { copiesPart } from '../plan/copiedPortion.ts';
import { isColourTagged, isHighDynamicRange } from '../programme/colour.ts';
import { encodedSound, fieldsOf, takesTracks, type Recipe } from '../recipe/recipe.ts';
import { SOUND } from '../sound/codecs.ts';
import { kbpsRange, nominalLayout } from '../sound/definition.ts';
import { floorRate } from '../sounding/sounding.ts';
import { fieldRate, isEven } from '../recipe/frameRate.ts';
import { framesPerFrame, retimeOf } from '../picture/chain.ts';
import { partsOf } from '../picture/store.ts';
import { STANDARD_COLOUR } from '../picture/toneMap.ts';
import { joinWords } from '../text.ts';
import { nameFrameRate } from '../timing/frameRate.ts';
import { toNumber } from '../timing/rational.ts';
import { adviseOnLevel } from './adviseOnLevel.ts';
import type { Settings } from './adviseOnSetting.ts';
import { adviseOnSettings } from './adviseOnSettings.ts';
import type { Advisory } from './advisory.ts';

/** What a plan is judged with. */
interface Planned extends Settings {
  /** As it was marked. */
  readonly portion: Portion | null;
}

/** Of a cap spent on sound, from where it is worth a word (common practice, no source). */
const HEAVY_SOUND_SHARE = 0.3;

/** A picture this near to the encoder's floor is safer in a smaller frame. */
const NEAR_FLOOR = 1.2;

/** What a person should know about a plan that works: each finding with its reason, none of which stops it. */
export function adviseOnPlan(planned: Planned): Advisory[] {
  return [
    ...adviseOnBudget(planned),
    ...adviseOnSettings(planned),
    ...adviseOnSource(planned),
    ...adviseOnCopiedPart(planned),
    ...adviseOnLevel(planned),
    ...adviseOnFields(planned),
    ...adviseOnRate(planned),
  ];
}

function* adviseOnBudget({ recipe, plan, sounding }: Planned): Generator<Advisory> {
  const { cap, split, binds, expected, videoRate } = plan.budget;
  if (binds === 'finest-quality' && expected) {
    yield {
      code: 'cap-does-not-bind',
      severity: 'note',
      field: 'video.rate.bytes',
      message: `The cap does not bind: at the finest quality worth having, this picture takes about ${megabytes(expected.likely)}, and no more will be spent.`,
      remedy: '',
    };
  }
  const audio = encodedSound(recipe);
  if (cap !== null && audio && split.audio / cap > HEAVY_SOUND_SHARE) {
    const { rate } = SOUND[audio.codec];
    const kbps = Math.round((audio.kbps ?? 0) / 2);
    const isPossible = rate.kind === 'asked' && kbps >= kbpsRange(rate, nominalLayout(audio.channels))[0];
    yield {
      code: 'sound-takes-much',
      severity: 'caution',
      field: 'audio.kbps',
      message: `Sound takes ${Math.round((100 * split.audio) / cap)} % of the cap.`,
      remedy: 'Half its rate, or mono for speech, leaves more for the picture.',
      ...(isPossible ? { fix: { kind: 'sound', label: 'Halve its rate', channels: audio.channels, kbps } } : {}),
    };
  }
  const lines = pictureOf(plan)?.out.size.height ?? 0;
  if (cap !== null && sounding && videoRate !== null && videoRate < floorRate(sounding) * NEAR_FLOOR) {
    const smaller = COMMON_HEIGHTS.find((height) => height < lines);
    yield {
      code: 'cap-near-floor',
      severity: 'caution',
      field: 'picture.fit',
      message: 'The cap is about as low as the encoder reaches at this frame size.',
      remedy: 'A smaller frame size is safer and will look better.',
      ...(smaller ? { fix: { kind: 'fit', label: `Take ${smaller} lines`, height: smaller } } : {}),
    };
  }
}

/** A copy begins and ends at keyframes, so it may take more than was marked. */
function* adviseOnCopiedPart({ facts, recipe, portion, plan: { span } }: Planned): Generator<Advisory> {
  if (!copiesPart(facts, recipe, portion)) return;
  const taken = { inFrame: span.inFrame, outFrame: span.inFrame + span.frameCount - 1 };
  if (taken.inFrame === portion.inFrame && taken.outFrame === portion.outFrame) return;
  const [before, after] = [portion.inFrame - taken.inFrame, taken.outFrame - portion.outFrame];
  const more = [before && `${count(before)} before`, after && `${count(after)} after`].filter(Boolean);
  yield {
    code: 'copy-takes-more',
    severity: 'note',
    field: 'portion',
    message: `A copy begins and ends at keyframes: it takes frames ${taken.inFrame} to ${taken.outFrame}, ${more.join(' and ')} what is marked.`,
    remedy: 'Encoding takes exactly what is marked.',
    fix: { kind: 'portion', label: 'Mark what the copy takes', portion: taken },
  };
}

/** Frames that lie unevenly, or are shown again, are seen where the picture moves. */
function* adviseOnRate({ facts, plan }: Planned): Generator<Advisory> {
  const picture = pictureOf(plan);
  if (!picture || !retimeOf(picture.chain) || !facts.video?.constantRate) return;
  const { frameRate } = picture.out;
  if (framesPerFrame(picture.chain) > 1) return;
  if (isEven(facts, frameRate)) return;
  const [rate, own] = [frameRate, facts.frameRate].map(nameFrameRate);
  const isMore = toNumber(frameRate) > toNumber(facts.frameRate);
  yield {
    code: 'motion-uneven',
    severity: 'caution',
    field: 'time.frameRate',
    message: isMore
      ? `Made ${rate} fps of ${own}, some frames are shown twice; nothing is gained, and even motion stutters.`
      : `Made ${rate} fps of ${own}, frames are left out unevenly; even motion stutters.`,
    remedy: isMore ? 'The source’s own rate is as smooth as it gets.' : 'Its own rate, or half of it, moves evenly.',
    fix: { kind: 'frame-rate', label: 'Keep the source’s frames', frameRate: 'source' },
  };
}

/** Two fields that become one frame were two moments. */
function* adviseOnFields({ facts, plan }: Planned): Generator<Advisory> {
  const [chain, rate] = [pictureOf(plan)?.chain ?? [], fieldRate(facts)];
  const makesOne = chain.some(({ step }) => step === 'deinterlace') && !retimeOf(chain);
  if (!rate || !makesOne || toNumber(facts.frameRate) > MOST_OF_FIELDS) return;
  yield {
    ...note('fields-become-one', 'time.frameRate', 'Two fields become one frame: motion has half of the steps it had.'),
    remedy: 'Each field as a frame of its own keeps them, at some more bytes.',
    fix: { kind: 'frame-rate', label: `Make each field a frame, ${nameFrameRate(rate)} fps`, frameRate: 'fields' },
  };
}

/** Frames a second of interlaced pictures (ITU-R BT.601, BT.709), at most. */
const MOST_OF_FIELDS = 30;

/** One channel of a sound, and the rest of it left out. */
function adviseOnChannels(audio: NonNullable<Recipe['audio']>, facts: ProgrammeFacts): Advisory | null {
  const channels = channelTracks(facts.audio);
  if (!channels || !takesTracks(audio, [0])) return null;
  const left = channels.length === 2 ? 'the left channel; the right one' : 'the left channel; the others';
  return {
    code: 'channel-alone',
    severity: 'caution',
    field: 'audio.tracks',
    message: `Track 1 is probably only ${left} would be missing.`,
    remedy: `Tracks ${joinWords(channels.map((index) => String(index + 1)))} become one sound.`,
    fix: { kind: 'join', label: 'Take them together', tracks: channels },
  };
}

function count(frames: number): string {
  return frames === 1 ? '1 frame' : `${frames} frames`;
}

function* adviseOnSource({ facts, recipe, plan, found }: Planned): Generator<Advisory> {
  const { video } = facts;
  if (recipe.audio && facts.audio.length === 0) {
    yield note('source-silent', 'audio', 'This programme has no sound, so the rendition will have none.');
  }
  const used = recipe.audio?.tracks.map((index) => String(index + 1)) ?? [];
  const alone = recipe.audio && adviseOnChannels(recipe.audio, facts);
  if (alone) {
    yield alone;
  } else if (facts.audio.length > used.length && soundsOf(plan).length > 0) {
    const taken = used.length === 1 ? `number ${used.join('')} is` : `numbers ${joinWords(used)} are`;
    yield note('more-sound-tracks', 'audio.tracks', `Of ${facts.audio.length} sound tracks ${taken} used.`);
  }
  // A copy is what its master is.
  const picture = pictureOf(plan);
  if (!video || !picture || !isEncoded(picture)) return;
  if (!isColourTagged(video.colour)) {
    const custom = picture.out.colour.matrix === 'bt709' ? 'BT.709, the custom of HD' : 'BT.601, the custom of SD';
    yield note('colour-not-tagged', 'picture', `The colour is not fully tagged; it is taken as ${custom}.`);
  }
  if (isHighDynamicRange(video) && picture.out.colour.transfer !== STANDARD_COLOUR.transfer) {
    const marks = [
      ...(partsOf(picture.out.format).depth > 8 ? [] : ['its dark tones will show steps in 8 bits']),
      'most screens will show it flat',
      ...(video.light && !picture.do.light ? ['how bright it gets is not told in the file'] : []),
    ];
    yield {
      code: 'high-dynamic-range',
      severity: 'caution',
      field: 'picture',
      message: `This is a high dynamic range master; ${joinWords(marks)}.`,
      remedy: 'Its light can be brought down to BT.709, as ordinary screens show it.',
      fix: { kind: 'standard-range', label: 'Bring it to standard range' },
    };
  }
  const fields = fieldsOf(facts, found?.scan ?? null);
  if (fields && !recipe.picture.deinterlace) {
    yield {
      code: 'interlaced',
      severity: 'caution',
      field: 'picture',
      message: 'The master is interlaced and is encoded as it is; moving edges will show combs on most screens.',
      remedy: 'One whole frame is made of each two fields; the frame count stays.',
      fix: { kind: 'deinterlace', label: 'Deinterlace it', fields },
    };
  }
  if (!picture.out.constantRate) {
    yield note('variable-rate', 'time', 'The frame rate varies; every frame keeps its own time.');
  }
}

function note(code: string, field: string, message: string): Advisory {
  return { code, severity: 'note', field, message, remedy: '' };
}

function megabytes(size: number): string {
  return `${(size / 1e6).toFixed(size < 1e7 ? 2 : 1)} MB`;
}
