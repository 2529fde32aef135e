import type { Container } from '../container/names.ts';
import type { VideoFacts } from '../programme/facts.ts';
import type { PixelFormat } from '../picture/store.ts';
import type { Profile, Tune } from './fine.ts';
import type { LevelTable } from './levels.ts';

/** How thoroughly an encoder searches. */
export const EFFORTS = ['fast', 'balanced', 'thorough'] as const;
export type Effort = (typeof EFFORTS)[number];

/** An encoder's scale of constant quality; lower is better. */
export interface QualityScale {
  readonly best: number;
  readonly worst: number;
  /** Where people usually start. */
  readonly usual: number;
  /** Encoders are asked for multiples of this. */
  readonly step: number;
  /** Nearer to each other than this, two qualities give the same. */
  readonly tellingStep: number;
  /** Where people usually end up, beside the encoder's own word. */
  readonly hint: string;
  /**
   * Below it the eye gains nothing and files only grow (common practice, no source: "above three quarters of a quality
   * scale files grow much and pictures hardly improve"). Size targets stop spending here.
   */
  readonly finestSensible: number;
  /**
   * What a sounding measures, from fine to coarse: the finest sensible, the coarsest there is, and between them where people work, near
   * together. Grain is kept up to some quality and dropped a few steps on, a twentieth of the bytes later: with two points there sizes
   * were foreseen at a third to four times (measured, two scenes with grain).
   */
  readonly sounded: readonly number[];
  /** Logarithm of the size for each step up the scale, as a rule (measured). */
  readonly slope: number;
  /** Passes an encode at constant quality takes. */
  readonly passes: 1 | 2;
  /** Whether its encoder puts a keyframe wherever it is told to; otherwise at a fixed distance only. */
  readonly takesKeyframes: boolean;
}

/** What an MP4 file says of a codec beside its frames. */
export interface Mp4Entry {
  /** Size of the box of parameter sets with its head, as our encoder writes it. */
  readonly parameterSetBytes: number;
  /** One more brand in `ftyp`. */
  readonly brandBytes: number;
  /** Other boxes of the track. */
  readonly otherBytes: number;
  /** Beyond the usual tables, for every frame. */
  readonly bytesPerFrame: number;
  /** Whether frames are stored in another order than shown, which takes a table. */
  readonly reorders: boolean;
}

/** A profile that can be fixed. */
export interface ProfileDefinition {
  /** The trade's name. */
  readonly name: string;
  readonly hint: string;
  readonly formats: readonly PixelFormat[];
  /** Whether its decoders take frames that are stored out of order. */
  readonly reorders: boolean;
}

/** What of the fine settings an encoder takes. */
export interface FineChoices {
  /** The encoder's own words for each, beside the plain one. */
  readonly tunes: Readonly<Partial<Record<Tune, string>>>;
  readonly profiles: Readonly<Partial<Record<Profile, ProfileDefinition>>>;
  readonly level: boolean;
  readonly tier: boolean;
  readonly bFrames: boolean;
  readonly closedGroups: boolean;
  readonly scenes: boolean;
  /** Whether a keyframe can be put at any given frame besides. */
  readonly marks: boolean;
}

/** An encoder that is left to itself. */
export const NO_CHOICES: FineChoices = {
  tunes: {},
  profiles: {},
  level: false,
  tier: false,
  bFrames: false,
  closedGroups: false,
  scenes: false,
  marks: false,
};

/** What every picture codec says of itself; its encoder lies in the engine. */
interface CommonDefinition {
  /** The trade's name. */
  readonly name: string;
  readonly hint: string;
  readonly containers: readonly Container[];
  /** How its pixels may be stored, the usual first. */
  readonly formats: readonly PixelFormat[];
  /** Those of its containers that carry its transparency. */
  readonly transparentIn: readonly Container[];
  /** By every browser in use (common practice, no source). */
  readonly playsEverywhere: boolean;
  /** Of a picture, in pixels. */
  readonly smallestSide: number;
  /** What its decoder must be told beforehand, in bytes, in Matroska and WebM. */
  readonly setUpBytes: number;
  /** null where it does not go into MP4. */
  readonly inMp4: Mp4Entry | null;
  /** As people write a level that files store as a number; null where the number says none. */
  readonly nameLevel: (stored: number) => string | null;
  /**
   * What a browser is asked about (RFC 6381 and the codec's own mapping).
   *
   * @returns null when no browser plays such a picture.
   */
  readonly webString: (video: VideoFacts) => string | null;
}

/** A codec whose encoder is given a rate or a quality. */
export interface RatedDefinition extends CommonDefinition {
  readonly kind: 'rated';
  /** Those of its formats that players take wherever they play the codec (common practice, no source). */
  readonly playedFormats: readonly PixelFormat[];
  /**
   * What a browser is asked about before there is a file (RFC 6381 and the codec's own mapping).
   *
   * @param level - The least that suffices, or the one that is fixed.
   * @param profile - The one that is fixed; null follows from the format.
   */
  readonly plannedString: (level: string, format: PixelFormat, profile: Profile | null) => string | null;
  readonly quality: QualityScale;
  /** In how many passes its encoder holds an average rate. */
  readonly averagePasses: readonly (1 | 2)[];
  /** Why the other count of passes is not among them; empty where both are. */
  readonly passFault: string;
  /** Why it keeps no highest rate over a buffer; empty where it does. */
  readonly bufferFault: string;
  readonly levels: LevelTable;
  /** Whether its frames can say how bright they get, as its encoder writes them. */
  readonly tellsLight: boolean;
  /** The encoder's own words for each effort, beside the plain one. */
  readonly effortWords: Readonly<Record<Effort, string>>;
  /** What each effort takes for a pixel of as many bits, against H.264's fast one (measured, 540 lines, the middle of five scenes). */
  readonly work: Readonly<Record<Effort, number>>;
  /** What the first of two passes takes against the second (measured, balanced, the middle of two scenes). */
  readonly firstPass: number;
  /** Frames an encoder holds: four in the order of a pyramid, or its frames of reference where those are more. */
  readonly heldFrames: Readonly<Record<Effort, number>>;
  readonly fine: FineChoices;
}

/** One strength of a codec for masters. */
export interface Flavour {
  /** As recipes write it. */
  readonly key: string;
  /** The trade's name. */
  readonly name: string;
  readonly hint: string;
  readonly formats: readonly PixelFormat[];
  /** Bits for each pixel of a picture stored so. */
  readonly bitsPerPixel: (format: PixelFormat) => PixelWeight;
}

/** Bits for each pixel of a usual picture, and of those that shrink most and least. */
export interface PixelWeight {
  readonly least: number;
  readonly likely: number;
  readonly most: number;
}

/** A codec for masters: every frame by itself, with no rate to choose. */
export interface MasterDefinition extends CommonDefinition {
  readonly kind: 'master';
  /** Whether it gives back every pixel as it was given. */
  readonly isLossless: boolean;
  /** From light to strong. */
  readonly flavours: readonly Flavour[];
  /** What a pixel takes against one of as many bits in H.264's fast effort (measured likewise). */
  readonly work: number;
}

/** What a picture codec is and can do. */
export type VideoDefinition = RatedDefinition | MasterDefinition;
