/** What kind of picture an encoder is tuned for. */
export const TUNES = ['film', 'drawn', 'grain', 'still', 'text'] as const;
export type Tune = (typeof TUNES)[number];

/** Two limits of rate that levels of some codecs have. */
export const TIERS = ['main', 'high'] as const;
export type Tier = (typeof TIERS)[number];

/** Profiles that are worth fixing; the others follow from how pixels are stored. */
export const PROFILES = ['baseline', 'main', 'high'] as const;
export type Profile = (typeof PROFILES)[number];

/** Most frames in a row that are stored out of order. */
export const MOST_B_FRAMES = 16;

/** What an expert may want otherwise than the encoder has it by itself; null leaves it to the encoder. */
export interface FineSettings {
  readonly tune: Tune | null;
  readonly profile: Profile | null;
  /** As people write it: `4.1`. */
  readonly level: string | null;
  readonly tier: Tier | null;
  /** 0 stores every frame in the order it is shown. */
  readonly bFrames: number | null;
  /** Whether groups of pictures stand by themselves. */
  readonly closedGroups: boolean | null;
  /** Whether a new scene begins with a keyframe. */
  readonly keyframesAtScenes: boolean;
}

/** Everything as the encoder has it by itself. */
export const AS_ENCODER_LIKES: FineSettings = {
  tune: null,
  profile: null,
  level: null,
  tier: null,
  bFrames: null,
  closedGroups: null,
  keyframesAtScenes: true,
};
