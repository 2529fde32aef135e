import { CONTAINER } from '../container/containers.ts';
import type { Container } from '../container/names.ts';
import type { FrameSize } from '../geometry/frameSize.ts';
import { croppedSize } from '../geometry/preparation.ts';
import { nameFormat, type PixelFormat } from '../picture/store.ts';
import {
  encodedSound,
  encodedVideo,
  fillsSize,
  formatOf,
  holdsInHardware,
  isCopied,
  isOneSound,
  isRatedVideo,
  type EncodedSound,
  type EncodedVideo,
  type RatedVideo,
} from '../recipe/recipe.ts';
import { isHighDynamicRange } from '../programme/colour.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { SOUND } from '../sound/codecs.ts';
import { LAYOUT_CHANNELS, layoutOf } from '../sound/definition.ts';
import { joinWords } from '../text.ts';
import { flavourOf, MASTERS, RATED, VIDEO, type VideoCodec } from '../video/codecs.ts';
import { encoderChoices, hardwareMissing } from '../video/hardware.ts';
import { findCaptionMisfits } from './planCaptions.ts';
import { findCopyMisfits } from './planCopy.ts';
import type { PlanProblem } from './planProblem.ts';
import type { PlanRequest } from './planRequest.ts';

/** Everything that stands in the way of a recipe, each at its field. */
export function* findMisfits(request: PlanRequest): Generator<PlanProblem> {
  const { facts, recipe, portion } = request;
  if (recipe.video && !facts.video) {
    yield problem('no-picture', 'video', 'This programme has sound only; choose a sound-only rendition.');
  }
  if (!recipe.video && (!recipe.audio || facts.audio.length === 0)) {
    yield problem('no-sound', 'audio', 'Nothing would be left: there is neither picture nor sound to write.');
  }
  if (recipe.video && CONTAINER[recipe.container].withPicture === null) {
    const { name } = CONTAINER[recipe.container];
    yield problem(
      'container-without-picture',
      'container',
      `${name} holds sound alone; take another container, or sound only.`,
    );
  }
  yield* findCopyMisfits(request);
  yield* findPictureMisfits(request);
  if (portion && facts.video && (portion.inFrame > portion.outFrame || portion.outFrame >= facts.frameCount)) {
    yield problem(
      'portion-outside',
      'portion',
      `The portion runs from frame ${portion.inFrame} to ${portion.outFrame}; this programme has frames 0 to ${facts.frameCount - 1}.`,
    );
  }
  if (portion && !facts.video) {
    yield problem('portion-outside', 'portion', 'A portion is counted in frames, and this programme has none.');
  }
  yield* findSoundMisfits(request);
  yield* findCaptionMisfits(facts, recipe);
}

function* findPictureMisfits({ facts, recipe, encoders, hardware = [] }: PlanRequest): Generator<PlanProblem> {
  const video = encodedVideo(recipe);
  if (!video || !facts.video) return;
  const { name, containers, smallestSide } = VIDEO[video.codec];
  if (CONTAINER[recipe.container].withPicture && !containers.includes(recipe.container)) {
    yield problem('codec-not-in-container', 'video.codec', notCarried(name, containers, recipe.container));
  }
  if (!encoders.includes(video.codec)) {
    yield problem('encoder-missing', 'video.codec', notInstalled(name));
  }
  if (recipe.picture.fit?.orSmaller && !fillsSize(recipe)) yield openWithoutCap;
  yield* findFormatMisfits(video);
  yield* findTransparencyMisfits(video, recipe.container);
  if (isRatedVideo(video)) {
    yield* video.hardware ? findHardwareMisfits(video, hardware) : findRateMisfits(video);
    yield* findFineMisfits(video);
  }
  const { crop, denoise, mark } = recipe.picture;
  if (mark && video.alpha) {
    const message =
      'A mark is drawn into opaque pictures only; take pixels without transparency, or leave the mark out.';
    yield problem('setting-not-taken', 'picture.mark', message);
  }
  if (mark && mark.text === null && !mark.file) {
    yield problem('setting-not-taken', 'picture.mark', 'Choose the picture of the mark, or take words, or no mark.');
  }
  if (mark?.file && isHighDynamicRange(facts.video) && recipe.picture.dynamicRange === 'source') {
    const message =
      'A picture as a mark has no high dynamic range; take a text, or bring the picture down to standard range.';
    yield problem('setting-not-taken', 'picture.mark', message);
  }
  if (denoise > 0 && video.alpha) {
    const message =
      'Noise is taken out of opaque pictures only; take pixels without transparency, or leave the noise in.';
    yield problem('setting-not-taken', 'picture.denoise', message);
  }
  const left = croppedSize(facts, crop);
  if (crop && Math.min(left.width, left.height) < smallestSide) {
    yield problem(
      'crop-too-large',
      'picture.crop',
      `Cropping leaves ${Math.max(0, left.width)} × ${Math.max(0, left.height)} of ${facts.width} × ${facts.height}; leave at least ${smallestSide} pixels on each side.`,
    );
  }
}

const openWithoutCap = problem(
  'setting-not-taken',
  'picture.fit',
  'The frame size is left open only under a size to fill, since it is chosen by what looks best there; take one frame size, or a size to fill.',
);

/** How pixels are stored against what the codec, its flavour or its profile takes. */
function* findFormatMisfits(video: EncodedVideo): Generator<PlanProblem> {
  const format = formatOf(video);
  const { name, formats } = formatsOf(video);
  if (formats.includes(format)) return;
  const taken = joinWords(formats.map(nameFormat), 'or');
  yield problem(
    'format-not-taken',
    'video.bitDepth',
    `${name} takes ${taken}; ${nameFormat(format)} is not among them.`,
  );
}

/** Transparency against what carries it, and how its bytes are decided. */
function* findTransparencyMisfits(video: EncodedVideo, container: Container): Generator<PlanProblem> {
  const { name, transparentIn } = VIDEO[video.codec];
  if (!video.alpha || !formatsOf(video).formats.includes(formatOf(video))) return;
  if (!transparentIn.includes(container)) {
    const carrying = joinWords(
      transparentIn.map((one) => CONTAINER[one].name),
      'or',
    );
    const message = `${CONTAINER[container].name} does not carry the transparency of ${name}; ${carrying} carries it.`;
    yield problem('transparency-not-carried', 'video.bitDepth', message);
  }
  if (isRatedVideo(video) && video.rate.mode !== 'quality') {
    const message =
      'Transparency is a second picture, which its encoder gives bytes beyond any rate or size; take a quality, or pixels without it.';
    yield problem('transparency-not-weighed', 'video.rate.mode', message);
  }
}

function formatsOf(video: EncodedVideo): { readonly name: string; readonly formats: readonly PixelFormat[] } {
  if (!isRatedVideo(video)) {
    const { name } = MASTERS[video.codec];
    const flavour = flavourOf(video.codec, video.flavour);
    return { name: `${name} ${flavour?.name ?? ''}`, formats: flavour?.formats ?? [] };
  }
  const { name, formats, fine } = encoderChoices(video);
  const profile = video.profile && fine.profiles[video.profile];
  return profile ? { name: `${name} ${profile.name}`, formats: profile.formats } : { name, formats };
}

/** What an expert asks for against what the encoder takes. */
function* findFineMisfits(video: RatedVideo): Generator<PlanProblem> {
  const { name, fine } = encoderChoices(video);
  const { tune, profile, level, tier, reordering, bFrames, closedGroups } = video;
  const { keyframesAtScenes, keyframesAtPortions } = video;
  const asked: readonly (readonly [field: string, isTaken: boolean, what: string])[] = [
    ['tune', tune === null || tune in fine.tunes, `tuning for ${tune}`],
    ['profile', profile === null || profile in fine.profiles, `fixed profile ${profile}`],
    ['level', level === null || fine.level, 'fixed level'],
    ['tier', tier === null || fine.tier, 'tier'],
    ['reordering', reordering || fine.bFrames, 'order of frames'],
    ['bFrames', bFrames === null || fine.bFrames, 'number of B-frames'],
    ['closedGroups', closedGroups === null || fine.closedGroups, 'choice of closed or open groups'],
    ['keyframesAtScenes', keyframesAtScenes || fine.scenes, 'choice of keyframes at scenes'],
    ['keyframesAtPortions', !keyframesAtPortions || fine.marks, 'keyframes at given frames'],
  ];
  for (const [field, isTaken, what] of asked) {
    if (isTaken) continue;
    const message = `The ${name} encoder takes no ${what}; leave it to the encoder.`;
    yield problem('setting-not-taken', `video.${field}`, message);
  }
}

/** What is made in hardware against what this machine's hardware does. */
function* findHardwareMisfits({ codec, rate }: RatedVideo, hardware: readonly VideoCodec[]): Generator<PlanProblem> {
  if (!hardware.includes(codec)) {
    yield problem('hardware-missing', 'video.hardware', hardwareMissing(codec));
  }
  if (!holdsInHardware(rate)) {
    const message =
      'Encoders in hardware hold an average in one pass, and nothing else; take that, or one of the efforts, which are made in software.';
    yield problem('hardware-holds-average', 'video.hardware', message);
  }
}

function* findRateMisfits({ codec, rate }: RatedVideo): Generator<PlanProblem> {
  const { averagePasses, passFault, bufferFault } = RATED[codec];
  if ((rate.mode === 'average' || rate.mode === 'variable') && !averagePasses.includes(rate.passes)) {
    const remedy = averagePasses[0] === 1 ? 'Take one pass.' : 'Take two passes.';
    yield problem('passes-not-held', 'video.rate.passes', `${passFault} ${remedy}`);
  }
  const isBuffered = rate.mode === 'constant' || ('maxKbps' in rate && rate.maxKbps !== null);
  if (isBuffered && bufferFault !== '') {
    const field = rate.mode === 'quality' ? 'video.rate.maxKbps' : 'video.rate.mode';
    yield problem('buffer-not-held', field, `${bufferFault} Take a quality, an average or a size.`);
  }
  if (rate.mode === 'variable' && rate.maxKbps < rate.kbps) {
    yield problem(
      'highest-below-average',
      'video.rate.maxKbps',
      `The highest rate, ${rate.maxKbps} kb/s, is below the average of ${rate.kbps} kb/s; raise it, or lower the average.`,
    );
  }
}

/** Which tracks are taken, and whether the container has room for them. */
function* findTrackMisfits({ facts, recipe }: PlanRequest): Generator<PlanProblem> {
  const { audio, container } = recipe;
  if (!audio || facts.audio.length === 0) return;
  const missing = audio.tracks.find((track) => track >= facts.audio.length);
  if (missing !== undefined) {
    const has = facts.audio.length === 1 ? 'one sound track, number 0' : `sound tracks 0 to ${facts.audio.length - 1}`;
    yield problem('track-missing', 'audio.tracks', `This programme has ${has}; there is no track ${missing}.`);
  }
  const isOne = audio.tracks.length === 1 || (!isCopied(audio) && isOneSound(audio));
  if (!isOne && !CONTAINER[container].holdsSeveralSounds) {
    const message = `${CONTAINER[container].name} holds one sound track; take one, or make one of them.`;
    yield problem('one-track', 'audio.tracks', message);
  }
}

function* findSoundMisfits(request: PlanRequest): Generator<PlanProblem> {
  yield* findTrackMisfits(request);
  const { facts, recipe, encoders } = request;
  const audio = encodedSound(recipe);
  if (!audio) return;
  yield* audio.joined ? findJoinMisfits(facts, audio) : findLayoutMisfits(facts, audio);
  const { name, containers, rate, sampleRates } = SOUND[audio.codec];
  if (!containers.includes(recipe.container)) {
    yield problem('codec-not-in-container', 'audio.codec', notCarried(name, containers, recipe.container));
  }
  if (facts.audio.length > 0 && !encoders.includes(audio.codec)) {
    yield problem('encoder-missing', 'audio.codec', notInstalled(name));
  }
  if (!sampleRates.includes(audio.sampleRate)) {
    const taken = joinWords(
      sampleRates.map((rate) => `${rate / 1000} kHz`),
      'or',
    );
    yield problem(
      'sample-rate-outside',
      'audio.sampleRate',
      `${name} takes ${taken}; ${audio.sampleRate} Hz is not one.`,
    );
  }
  if (rate.kind === 'whole' || audio.kbps === null || audio.channels === 'source') return;
  const [least, most] = rate.kbps[audio.channels];
  if (audio.kbps < least || audio.kbps > most) {
    yield problem(
      'sound-rate-outside',
      'audio.kbps',
      `${name} ${audio.channels} takes ${least} to ${most} kb/s; ${audio.kbps} is outside that.`,
    );
  }
}

/** Tracks that are channels: of one channel each, and as many as lie in a usual layout that the codec carries. */
function* findJoinMisfits(facts: ProgrammeFacts, { tracks, channels, codec }: EncodedSound): Generator<PlanProblem> {
  const wide = tracks.find((track) => (facts.audio[track]?.channels ?? 1) !== 1);
  if (wide !== undefined) {
    const message = `Track ${wide + 1} has ${facts.audio[wide]?.channels} channels; only tracks of one channel each are joined. Mix them, or take each by itself.`;
    yield problem('tracks-not-joined', 'audio.tracks', message);
  }
  if (layoutOf(tracks.length) === null) {
    const counts = Object.values(LAYOUT_CHANNELS).filter((count) => count > 1);
    const message = `${joinWords(counts.map(String), 'or')} tracks are joined into one sound, and these are ${tracks.length}; take so many, or mix them.`;
    yield problem('tracks-not-joined', 'audio.tracks', message);
  }
  const { name, mostChannels } = SOUND[codec];
  if (channels === 'source' && tracks.length > mostChannels) {
    const message = `${name} carries at most ${mostChannels} channels, and these are ${tracks.length}; take stereo or mono.`;
    yield problem('channels-not-carried', 'audio.channels', message);
  }
}

/** As many channels as the source has: only where they lie in a usual layout, and the codec carries so many. */
function* findLayoutMisfits(facts: ProgrammeFacts, audio: EncodedSound): Generator<PlanProblem> {
  if (audio.channels !== 'source') return;
  const { name, mostChannels } = SOUND[audio.codec];
  for (const index of audio.tracks) {
    const channels = facts.audio[index]?.channels;
    if (channels === undefined) continue;
    const remedy = 'take stereo or mono.';
    if (channels > mostChannels) {
      const message = `${name} carries at most ${mostChannels} channels, and track ${index + 1} has ${channels}; ${remedy}`;
      yield problem('channels-not-carried', 'audio.channels', message);
    } else if (layoutOf(channels) === null) {
      const message = `Track ${index + 1} has ${channels} channels, which is none of ${joinWords(Object.keys(LAYOUT_CHANNELS))}; ${remedy}`;
      yield problem('channels-not-carried', 'audio.channels', message);
    }
  }
}

function notInstalled(codec: string): string {
  return `The encoder for ${codec} is not installed on this machine; choose another codec, or install Debian’s ffmpeg package.`;
}

function notCarried(codec: string, containers: readonly Container[], chosen: Container): string {
  const carrying = joinWords(
    containers.map((one) => CONTAINER[one].name),
    'or',
  );
  return `${codec} does not go into ${CONTAINER[chosen].name}; ${carrying} carries it.`;
}

/** A frame size below what the codec's encoder takes. */
export function tooSmall({ width, height }: FrameSize, codec: VideoCodec): PlanProblem {
  const { name, smallestSide } = VIDEO[codec];
  return problem(
    'frame-too-small',
    'picture.fit',
    `${width} × ${height} is smaller than ${name} takes, at least ${smallestSide} pixels on each side; take a larger frame size or another codec.`,
  );
}

function problem(code: PlanProblem['code'], field: string, message: string): PlanProblem {
  return { code, field, message };
}
