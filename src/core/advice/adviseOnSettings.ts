import { CONTAINER } from '../container/containers.ts';
import { COMMON_HEIGHTS } from '../geometry/frameSize.ts';
import { isEncoded, pictureOf } from '../plan/encodePlan.ts';
import { nameFormat, partsOf } from '../picture/store.ts';
import { nameSourceCodec } from '../programme/sourceCodecs.ts';
import { encodedSound, encodedVideo, formatOf, losslessVideo, ratedVideo } from '../recipe/recipe.ts';
import { qualityOfRate, soundedRate } from '../sounding/sounding.ts';
import { SOUND, soundCodecOf } from '../sound/codecs.ts';
import { kbpsRange, nominalLayout } from '../sound/definition.ts';
import { joinWords, writeSize } from '../text.ts';
import { toNumber } from '../timing/rational.ts';
import { carriesWhole, formatForWhole } from '../video/carriesWhole.ts';
import { isRated, KEYFRAME_SECONDS, MASTERS, PICTURE_KBPS_RANGE, RATED, VIDEO } from '../video/codecs.ts';
import type { Advisory } from './advisory.ts';
import type { AdviseOnSetting, Settings } from './adviseOnSetting.ts';
import { noneDrawn } from './captionAdvice.ts';
import { enlarged } from './enlargedAdvice.ts';

/** What an order asks for that helps nobody: each with its reason and a fix where there is one. */
export function adviseOnSettings(settings: Settings): Advisory[] {
  return ADVICE.map((advise) => advise(settings)).filter((one) => one !== null);
}

/** More bits than the master has cannot show more than is in it. */
const aboveSource: AdviseOnSetting = ({ facts, recipe }) => {
  const rate = ratedVideo(recipe)?.rate;
  const own = facts.video?.bitsPerSecond;
  if (!rate || !('kbps' in rate) || !own || rate.kbps * 1000 <= own) return null;
  const kbps = Math.max(PICTURE_KBPS_RANGE[0], Math.floor(own / 1000));
  return {
    code: 'rate-above-source',
    severity: 'caution',
    field: 'video.rate.kbps',
    message: `${rate.kbps.toLocaleString('en')} kb/s is more than the master’s own picture has, ${kbps.toLocaleString('en')} kb/s; nothing more can be shown by it.`,
    remedy: 'Its own rate is the most that makes sense.',
    fix: { kind: 'rate', label: 'Take the master’s own rate', kbps },
  };
};

/** A file larger than its master costs more and shows no more. */
const capAboveSource: AdviseOnSetting = ({ facts, recipe, plan: { span, budget } }) => {
  const { cap, expected, split } = budget;
  const own = roundDown(facts.bytes * Math.min(1, span.seconds / facts.durationSeconds));
  if (ratedVideo(recipe)?.rate.mode !== 'size' || cap === null || (expected?.likely ?? cap) <= own) return null;
  // Sound at its rate must leave the picture something.
  const isEnough = own > 2 * (split.audio + split.container);
  return {
    code: 'cap-above-source',
    severity: 'caution',
    field: 'video.rate.bytes',
    message: `Filling ${writeSize(cap)} makes a larger file than the master, which takes ${writeSize(own)}; nothing more can be shown by it.`,
    remedy: isEnough ? 'Its own size is the most that makes sense.' : 'A constant quality takes no more than it needs.',
    ...(isEnough ? { fix: { kind: 'size', label: 'Take the master’s own size', bytes: own } } : {}),
  };
};

/** A size that reads well: three digits of it. */
function roundDown(size: number): number {
  const unit = 10 ** Math.max(3, Math.floor(Math.log10(Math.max(1, size))) - 2);
  return Math.floor(size / unit) * unit;
}

/** Five times fewer bits than the usual quality takes: pictures fall apart (common practice, no source). */
const STARVED = Math.log(5);

const starved: AdviseOnSetting = ({ recipe, plan, sounding }) => {
  const video = ratedVideo(recipe);
  const rate = plan.budget.videoRate;
  const size = pictureOf(plan)?.out.size;
  if (!video || !sounding || rate === null || !size || video.rate.mode === 'quality') return null;
  const { usual, slope, worst } = RATED[video.codec].quality;
  const starvedFrom = Math.min(worst, usual - STARVED / slope);
  if (qualityOfRate(sounding, rate) < starvedFrom) return null;
  // Bits go about with the area: at this size the picture would have half of what is usual.
  const share = (2 * rate) / soundedRate(sounding, usual);
  const height = COMMON_HEIGHTS.find((lines) => lines < size.height && (lines / size.height) ** 2 <= share);
  return {
    code: 'picture-starved',
    severity: 'caution',
    field: 'picture.fit',
    message: `At ${size.width} × ${size.height} this rate starves the picture: it is less than a fifth of what it usually takes.`,
    remedy: 'A smaller frame size looks better at the same bytes.',
    ...(height ? { fix: { kind: 'fit', label: `Take ${height} lines`, height } } : {}),
  };
};

const soundAboveSource: AdviseOnSetting = ({ facts: { audio: tracks }, recipe }) => {
  const audio = encodedSound(recipe);
  const track = tracks[audio?.tracks[0] ?? 0];
  if (!audio || audio.kbps === null || !track?.bitsPerSecond) return null;
  const own = soundCodecOf(track.codec);
  const ownRate = track.bitsPerSecond * (audio.joined ? audio.tracks.length : 1);
  // Bare samples and lossless sound have more than any rate.
  if (!own || SOUND[own].rate.kind === 'whole' || audio.kbps * 1000 <= ownRate * 1.02) return null;
  const { rate } = SOUND[audio.codec];
  const least = rate.kind === 'asked' ? kbpsRange(rate, nominalLayout(audio.channels))[0] : 0;
  const kbps = Math.max(least, Math.floor(ownRate / 1000));
  return {
    code: 'sound-above-source',
    severity: 'note',
    field: 'audio.kbps',
    message: `The master’s own sound has ${Math.round(ownRate / 1000)} kb/s; ${audio.kbps} add nothing to it.`,
    remedy: 'Its own rate is enough.',
    fix: { kind: 'sound', label: 'Take its own rate', channels: audio.channels, kbps },
  };
};

/** Seconds between keyframes beyond which seeking is slow, and under which bytes go to them (common practice, no source). */
const SLOW_SECONDS = 10;
const WASTEFUL_SECONDS = 0.5;

const keyframes: AdviseOnSetting = ({ plan }) => {
  const picture = pictureOf(plan);
  if (!picture || !isEncoded(picture) || picture.do.rate.kind === 'fill') return null;
  const seconds = picture.do.keyframeInterval / toNumber(picture.out.frameRate);
  if (seconds <= SLOW_SECONDS && seconds >= WASTEFUL_SECONDS) return null;
  const isSlow = seconds > SLOW_SECONDS;
  return {
    code: isSlow ? 'keyframes-far' : 'keyframes-near',
    severity: 'note',
    field: 'video.keyframes',
    message: isSlow
      ? `Keyframes ${seconds.toFixed(0)} s apart make players slow to seek.`
      : `Keyframes every ${seconds.toFixed(2)} s take bytes that the picture between them lacks.`,
    remedy: 'Five seconds suit the web.',
    fix: { kind: 'keyframes', label: `A keyframe every ${KEYFRAME_SECONDS} s`, seconds: KEYFRAME_SECONDS },
  };
};

/** Many players take one way of storing pixels alone. */
const unusualPixels: AdviseOnSetting = ({ recipe, plan }) => {
  const format = pictureOf(plan)?.out.format;
  const codec = ratedVideo(recipe)?.codec;
  if (!format || !codec || RATED[codec].playedFormats.includes(format)) return null;
  return {
    code: 'pixels-refused',
    severity: 'caution',
    field: 'video.bitDepth',
    message: `${nameFormat(format)} in ${RATED[codec].name} is refused by browsers and many players.`,
    remedy: '8 bits in 4:2:0 plays wherever the codec does.',
    fix: { kind: 'pixels', label: 'Take 8 bits, 4:2:0', format: '420p8' },
  };
};

/** Lossless is what it is given: what does not fit its pixels is lost before. */
const storedInPart: AdviseOnSetting = ({ facts, recipe }) => {
  const [own, video] = [facts.video, losslessVideo(recipe)];
  if (!own || !video) return null;
  const format = formatOf(video);
  const whole = formatForWhole(MASTERS[video.codec].formats, own);
  if (carriesWhole(format, own) || format === whole) return null;
  return {
    code: 'stored-in-part',
    severity: 'caution',
    field: 'video.bitDepth',
    message: `The master’s pixels do not fit into ${nameFormat(format)}; what does not fit is lost.`,
    remedy: 'Lossless is what comes after.',
    fix: { kind: 'pixels', label: `Take ${nameFormat(whole)}`, format: whole },
  };
};

/** Editors and archives want a master's pixels as they are; on the web not every player stretches them. */
const pixelsKept: AdviseOnSetting = ({ recipe, plan }) => {
  const picture = pictureOf(plan);
  if (!picture || !isEncoded(picture) || !picture.out.pixelAspect) return null;
  const { num, den } = picture.out.pixelAspect;
  return {
    code: 'pixels-stay-stretched',
    severity: 'caution',
    field: 'picture.pixelAspect',
    message: `Pixels stay ${num}:${den}; a player that does not stretch ${CONTAINER[recipe.container].name} shows the picture out of shape.`,
    remedy: 'Square pixels look the same everywhere.',
    fix: { kind: 'square-pixels', label: 'Make pixels square' },
  };
};

const unplayed: AdviseOnSetting = ({ recipe, plan }) => {
  const picture = pictureOf(plan);
  if (!picture || picture.do.kind === 'master') return null;
  const { name, playsInBrowsers } = CONTAINER[recipe.container];
  if (playsInBrowsers && VIDEO[picture.do.codec].playsEverywhere) return null;
  const message = playsInBrowsers
    ? `${VIDEO[picture.do.codec].name} in ${name} does not play everywhere: ${VIDEO[picture.do.codec].hint}`
    : `Browsers do not play ${name}; for the web take MP4 or WebM.`;
  return { code: 'not-played-everywhere', severity: 'note', field: 'container', message, remedy: '' };
};

/** Bits a pixel below which a compressed master shows its own losses (common practice, no source). */
const THIN = 0.1;

const secondLoss: AdviseOnSetting = ({ facts, plan }) => {
  const { video, width, height, frameRate } = facts;
  const picture = pictureOf(plan);
  if (!video?.bitsPerSecond || !isRated(video.codec) || !picture || picture.do.kind === 'copy') return null;
  const bitsPerPixel = video.bitsPerSecond / (width * height * toNumber(frameRate));
  if (bitsPerPixel >= THIN) return null;
  return {
    code: 'second-loss',
    severity: 'note',
    field: 'video',
    message: `The master is compressed already (${nameSourceCodec(video.codec)}, ${(video.bitsPerSecond / 1e6).toFixed(1)} Mb/s), and is compressed a second time.`,
    remedy: 'From an earlier, better copy the same bytes look better.',
  };
};

/** Codecs that keep transparency in one of their formats. */
const KEEPING = joinWords(
  Object.values(VIDEO)
    .filter(({ transparentIn }) => transparentIn.length > 0)
    .map(({ name }) => name),
  'or',
);

const transparency: AdviseOnSetting = ({ facts, recipe, plan, found }) => {
  const picture = pictureOf(plan);
  if (
    !facts.video?.alpha ||
    found?.opaque ||
    !picture ||
    picture.do.kind === 'copy' ||
    partsOf(picture.out.format).alpha
  )
    return null;
  const video = encodedVideo(recipe);
  const canKeep = video !== null && VIDEO[video.codec].transparentIn.includes(recipe.container);
  return {
    code: 'transparency-lost',
    severity: 'caution',
    field: 'video',
    message: 'The master has transparency, and this file will have none: what lies under it is shown as it is stored.',
    remedy: canKeep ? 'This codec can keep it.' : `${KEEPING} can keep it.`,
    ...(canKeep ? { fix: { kind: 'transparency', label: 'Keep it' } } : {}),
  };
};

const ADVICE: readonly AdviseOnSetting[] = [
  aboveSource,
  capAboveSource,
  starved,
  enlarged,
  soundAboveSource,
  keyframes,
  unusualPixels,
  storedInPart,
  pixelsKept,
  unplayed,
  secondLoss,
  transparency,
  noneDrawn,
];
