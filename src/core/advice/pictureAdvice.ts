import { SQUARE } from '../geometry/frameSize.ts';
import { sameRational, toNumber } from '../timing/rational.ts';
import { isEfficientCodec } from '../programme/sourceCodecs.ts';
import { steadyRate } from '../recipe/frameRate.ts';
import { nameFrameRate } from '../timing/frameRate.ts';
import type { Advise } from './advisory.ts';

/** Bits a pixel of an efficient codec below which encoding again is seen (common practice, no source). */
const THIN_BITS_PER_PIXEL = 0.06;

/** Places named in one sentence. */
const MOST_PLACES = 5;

/** Decimals that stand for n/1001, rounded by some writer. */
const ROUNDED_RATES: readonly (readonly [rounded: number, exact: string])[] = [
  [23.976, '24000/1001'],
  [23.98, '24000/1001'],
  [29.97, '30000/1001'],
  [59.94, '60000/1001'],
];

/** Interlaced by its picture, whatever the tag says; where too little moves to tell, the tag must do. */
export const adviseOnScan: Advise = ({ facts, findings }) => {
  const { video } = facts;
  if (!video) return null;
  const scan = findings?.scan ?? (video.interlaced ? (video.fieldOrder ?? 'top-first') : null);
  if (scan === null || scan === 'progressive') return null;
  const order = scan === 'mixed' ? 'in parts' : scan === 'top-first' ? 'top field first' : 'bottom field first';
  return {
    code: 'interlaced',
    severity: 'serious',
    message: `The picture is interlaced, ${order}; shown as it is, moving edges have combs on every web player.`,
    remedy: 'One whole frame is made of each two fields; the frame count stays.',
    fix: {
      kind: 'deinterlace',
      label: 'Deinterlace it',
      fields: scan === 'mixed' ? (video.fieldOrder ?? 'top-first') : scan,
    },
  };
};

/** The tag says one thing, the picture another. */
export const adviseOnScanTag: Advise = ({ facts, findings }) => {
  const { video } = facts;
  if (!video || !findings?.scan || findings.scan === 'mixed') return null;
  const isInterlaced = findings.scan !== 'progressive';
  if (isInterlaced === video.interlaced) return null;
  return {
    code: 'scan-tag-wrong',
    severity: 'note',
    message: `The file is tagged ${video.interlaced ? 'interlaced' : 'progressive'}, but its picture is ${isInterlaced ? 'interlaced' : 'progressive'}.`,
    remedy: 'Linstock goes by the picture.',
    // Fields are taken for what the tag says until the picture is known.
    ...(isInterlaced ? {} : { fix: { kind: 'deinterlace', label: 'Leave the frames as they are', fields: null } }),
  };
};

/** Bars that are part of the picture cost bits and make it smaller on every screen. */
export const adviseOnBars: Advise = ({ facts, findings }) => {
  const bars = findings?.bars;
  if (!bars || !facts.video) return null;
  const sides = (['top', 'bottom', 'left', 'right'] as const).filter((side) => bars[side] > 0);
  if (sides.length === 0) return null;
  const named = sides.map((side) => `${bars[side]} ${side}`).join(', ');
  const [width, height] = [facts.width - bars.left - bars.right, facts.height - bars.top - bars.bottom];
  return {
    code: 'bars',
    severity: 'caution',
    message: `Black bars are part of the picture (${named}); players add bars of their own, so they cost size for nothing.`,
    remedy: `The picture itself is ${width} × ${height}.`,
    fix: { kind: 'crop', label: 'Crop the bars off', crop: bars },
  };
};

/** On a rate that varies some players stutter. */
export const adviseOnVariableRate: Advise = ({ facts }) => {
  if (!facts.video || facts.video.constantRate) return null;
  const steady = steadyRate(facts);
  return {
    code: 'variable-rate',
    severity: 'caution',
    message: `The frame rate varies around ${nameFrameRate(facts.frameRate)} frames a second; some players and editing programs stutter or drift on it.`,
    remedy: `Renditions keep every frame at its own time; at a steady ${nameFrameRate(steady)} some are shown again, and none is lost while they come no quicker.`,
    fix: { kind: 'frame-rate', label: `Make it a steady ${nameFrameRate(steady)}`, frameRate: steady },
  };
};

/** 29.97 written as 2997/100 is not 30000/1001. */
export const adviseOnRoundedRate: Advise = ({ facts }) => {
  const claimed = facts.video?.claimedRate;
  if (!claimed || claimed.den === 1001) return null;
  const value = toNumber(claimed);
  const [, exact] = ROUNDED_RATES.find(([rounded]) => Math.abs(value - rounded) < 1e-7) ?? [];
  if (!exact) return null;
  const isSnapped = facts.frameRate.den === 1001;
  return {
    code: 'rounded-rate',
    severity: 'note',
    message: `The frame rate is written as the rounded ${claimed.num}/${claimed.den} instead of ${exact}; beside other material it drifts.`,
    remedy: isSnapped
      ? `Renditions run at exactly ${exact}.`
      : `It is kept as it is; export again at ${exact} to match others.`,
  };
};

/** Pixels that are not square are stretched by players in different ways. */
export const adviseOnPixelShape: Advise = ({ facts }) => {
  const { video } = facts;
  if (!video || sameRational(video.pixelAspect, SQUARE)) return null;
  const { num, den } = video.pixelAspect;
  return {
    code: 'pixels-not-square',
    severity: 'note',
    message: `Pixels are ${num}:${den}, not square; not every web player stretches them as it should.`,
    remedy: 'Renditions are made with square pixels, where their order does not keep these.',
  };
};

/** A turn that only the tag knows is lost by tools that ignore it. */
export const adviseOnRotation: Advise = ({ facts }) => {
  if (!facts.video || facts.video.rotation === 0) return null;
  return {
    code: 'rotated-by-tag',
    severity: 'note',
    message: `The picture stands upright only by a tag (${facts.video.rotation}° clockwise), which some players ignore.`,
    remedy: 'Renditions are turned upright for good.',
  };
};

/** 4:2:0 has one colour sample for two by two pixels. */
export const adviseOnOddSize: Advise = ({ facts }) => {
  if (!facts.video || (facts.width % 2 === 0 && facts.height % 2 === 0)) return null;
  return {
    code: 'odd-frame-size',
    severity: 'note',
    message: `The frame size ${facts.width} × ${facts.height} is odd, and web codecs want even sides (4:2:0).`,
    remedy: 'Renditions are scaled to the nearest even size.',
  };
};

/** What was thin once is thinner twice. */
export const adviseOnThinSource: Advise = ({ facts }) => {
  const { video, frameRate, width, height } = facts;
  if (!video?.bitsPerSecond || !isEfficientCodec(video.codec)) return null;
  const bitsPerPixel = video.bitsPerSecond / (width * height * toNumber(frameRate));
  if (bitsPerPixel >= THIN_BITS_PER_PIXEL) return null;
  return {
    code: 'thin-source',
    severity: 'caution',
    message: `The master has only ${bitsPerPixel.toFixed(3)} bits a pixel: it was compressed hard already, and encoding it again will be seen.`,
    remedy: 'Use the original from the edit if it exists.',
  };
};

/** Frames that do not decode cleanly end up in every rendition. */
export const adviseOnDamage: Advise = ({ clock, findings }) => {
  if (!findings || findings.damaged.length === 0) return null;
  const times = findings.damaged.slice(0, MOST_PLACES).map(({ inFrame }) => `${clock.secondsOf(inFrame).toFixed(1)} s`);
  const more = findings.damaged.length > times.length ? ` and ${findings.damaged.length - times.length} more` : '';
  return {
    code: 'damaged',
    severity: 'serious',
    places: findings.damaged.slice(0, MOST_PLACES).map(({ inFrame }) => inFrame),
    message: `The file is damaged: frames did not decode cleanly near ${times.join(', ')}${more}.`,
    remedy: 'Copy or export it again; otherwise the damage will be in every rendition.',
  };
};
