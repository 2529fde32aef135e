import type { Advisory } from '../core/advice/advisory.ts';
import type { Findings } from '../core/analysis/conclude.ts';
import type { EncodePlan, PassName } from '../core/plan/encodePlan.ts';
import type { AudioFacts, Portion, ProgrammeFacts, VideoFacts } from '../core/programme/facts.ts';
import type { Recipe } from '../core/recipe/recipe.ts';
import type { CloserLook } from '../core/quality/closerLook.ts';
import type { PsnrSummary, SsimSummary } from '../core/quality/frameQuality.ts';
import type { ShelfKind } from '../core/shelf/shelf.ts';
import type { SoundCodec } from '../core/sound/codecs.ts';
import type { RatedCodec, VideoCodec } from '../core/video/codecs.ts';

/** What went wrong, for people; callers branch on the code. */
export interface Problem {
  readonly code: string;
  readonly message: string;
  /** The engine's own last words, where there are any. */
  readonly detail?: string;
}

/** Every error answer. */
export interface ErrorBody {
  readonly error: {
    readonly code: string;
    readonly message: string;
    readonly field?: string;
    /** The first few faults when there are several, the first one included. */
    readonly all?: readonly { readonly code: string; readonly message: string; readonly field?: string }[];
  };
}

export interface ProgrammeView extends ProgrammeFacts {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  readonly state: 'looking' | 'ready' | 'failed';
  readonly problem?: Problem;
  /** Whether the file is still the one that was looked at. */
  readonly master: 'there' | 'changed' | 'missing';
  readonly addedAt: string;
  /** The first picture that is not black, as far as the analysis has told; otherwise 0. */
  readonly openingFrame: number;
}

/** A programme as lists have it. */
export interface ProgrammeSummary extends Pick<
  ProgrammeFacts,
  'bytes' | 'durationSeconds' | 'frameCount' | 'frameRate' | 'width' | 'height'
> {
  readonly id: string;
  readonly path: string;
  readonly name: string;
  readonly state: ProgrammeView['state'];
  readonly problem?: Problem;
  readonly master: ProgrammeView['master'];
  readonly addedAt: string;
  readonly openingFrame: number;
  readonly video: Pick<VideoFacts, 'codec' | 'constantRate'> | null;
  readonly audio: readonly Pick<AudioFacts, 'codec' | 'channels' | 'sampleRate'>[];
  /** Whether a rendition of it was made. */
  readonly isMade: boolean;
}

/** A programme that was forgotten, with what is still kept of it. */
export interface ForgottenView {
  readonly id: string;
  readonly name: string;
  readonly path: string;
  readonly forgottenAt: string;
  readonly renditions: number;
  readonly portions: number;
  readonly analysed: boolean;
}

export const RENDITION_STATES = ['planned', 'queued', 'running', 'checking', 'done', 'failed', 'stopped'] as const;
export type RenditionState = (typeof RENDITION_STATES)[number];

/** One verification of a result. */
export interface Check {
  readonly name: string;
  readonly ok: boolean;
  readonly expected: string;
  readonly found: string;
  /** A rule of the receiver's brief: the file stands even where it is broken. */
  readonly ofBrief?: true;
}

export interface QualityView {
  readonly ssim: SsimSummary;
  readonly psnr: PsnrSummary;
  readonly scaler: string;
  /** Results of before 0.7 have none. */
  readonly closer?: CloserLook;
}

/** How a size target was met. */
export interface FillView {
  readonly cap: number;
  /** Encodes of the whole. */
  readonly secondPasses: readonly {
    /** What it was asked for: a constant quality, or, by versions before 0.4, a rate. */
    readonly kbps: number | null;
    readonly quality: number | null;
    readonly bytes: number;
  }[];
  /** Groups of pictures encoded again by themselves: frames of the rendition, both included. */
  readonly retouches: readonly {
    readonly inFrame: number;
    readonly outFrame: number;
    /** The constant quality it was asked at. */
    readonly quality: number;
    /** Of the picture; null when it could not stand beside the others. */
    readonly bytes: number | null;
    /** It stands in the file. */
    readonly isUsed: boolean;
  }[];
  /**
   * Each group of pictures of a joined file, in order: its frames, the quality it was given and its bytes, and what it would have
   * taken at one quality for all, in the encode nearest to the cap. Missing where all have the same, and before 0.6.
   */
  readonly groups?: readonly {
    readonly frames: number;
    readonly quality: number;
    readonly bytes: number;
    readonly evenBytes: number;
  }[];
  readonly outcome: 'filled' | 'saturated' | 'passes-spent' | 'over';
  /** How many of the passes the file was put together from, group of pictures by group; null when it is one of them. */
  readonly joinedFrom: number | null;
}

/** What a rendition will be or is, in a few words. */
export interface RenditionOutline {
  /** null for sound only. */
  readonly codec: VideoCodec | 'copy' | null;
  readonly width: number | null;
  readonly height: number | null;
  /** 0 for sound only. */
  readonly frameCount: number;
  readonly seconds: number;
  readonly capBytes: number | null;
}

/** Where a rendition is on its way. */
export interface RenditionPosition {
  readonly state: RenditionState;
  readonly stage: PassName | 'checking' | null;
  readonly pass: number | null;
  readonly passes: number;
  readonly fraction: number;
  readonly framesPerSecond: number | null;
  readonly secondsLeft: number | null;
}

/** A rendition as lists have it. */
export interface RenditionSummary extends RenditionPosition {
  readonly id: string;
  readonly programmeId: string;
  readonly programmeName: string;
  /** The order as plain text. */
  readonly sentence: string;
  /** The same for the same order of one programme. */
  readonly orderKey: string;
  readonly outline: RenditionOutline;
  /** What was done to the frames before they were scaled; empty for nothing. */
  readonly preparation: string;
  readonly portion: Portion | null;
  readonly portionName: string | null;
  readonly name: string;
  readonly problem?: Problem;
  readonly expectedBytes: number | null;
  readonly bytes: number | null;
  readonly queuedAt: string;
  readonly startedAt: string | null;
  readonly finishedAt: string | null;
  /** Seconds spent encoding, and measuring and checking. */
  readonly encodeSeconds: number | null;
  readonly checkSeconds: number | null;
  readonly checksPassed: number;
  readonly quality: QualityView | null;
  readonly fillOutcome: FillView['outcome'] | null;
  /** True while the file is where it was put. */
  readonly hasFile: boolean;
  /** What it was ordered with others in; null by itself. */
  readonly batch: { readonly id: string; readonly name: string } | null;
  /** It waits or stands still until someone lets it go on. */
  readonly paused: boolean;
  /** What its recipe was called. */
  readonly recipeName: string;
}

/** Everything about a rendition. */
export interface RenditionView extends RenditionSummary {
  readonly recipe: Recipe;
  readonly path: string;
  readonly plan: EncodePlan;
  readonly checks: readonly Check[];
  readonly fill: FillView | null;
}

/** One page of a list; `next` asks for the one after it, null at the end. */
export interface ListPage<Row> {
  readonly rows: readonly Row[];
  readonly next: string | null;
}

/** A page of renditions, and how many there are of each state among all that were asked for. */
export interface RenditionPage extends ListPage<RenditionSummary> {
  readonly counts: Readonly<Partial<Record<RenditionState, number>>>;
}

export interface PlanView {
  readonly programmeId: string;
  readonly recipe: Recipe;
  readonly width: number | null;
  readonly height: number | null;
  readonly frameCount: number;
  readonly durationSeconds: number;
  readonly passes: readonly PassName[];
  readonly budget: {
    readonly capBytes: number | null;
    readonly videoBytes: number | null;
    readonly audioBytes: number;
    readonly containerBytes: number;
    readonly headroomBytes: number | null;
    readonly videoKbps: number | null;
    readonly binds: EncodePlan['budget']['binds'];
  };
  readonly expectedBytes: number | null;
  readonly expectedRange: { readonly low: number; readonly high: number } | null;
  readonly averageKbps: number | null;
  readonly bytesPerHour: number | null;
  readonly advisories: readonly Advisory[];
}

export interface MediaListing {
  /** null at the top, where the media folders themselves are listed. */
  readonly folder: string | null;
  readonly parent: string | null;
  readonly entries: readonly {
    readonly name: string;
    readonly path: string;
    readonly kind: 'folder' | 'file';
    readonly bytes: number | null;
    /** The programme this file is already taken in as. */
    readonly programmeId: string | null;
  }[];
}

export interface SystemView {
  readonly engine: {
    readonly version: string | null;
    readonly encoders: readonly VideoCodec[];
    readonly soundEncoders: readonly SoundCodec[];
    readonly problem: string | null;
  };
  readonly mediaFolders: readonly string[];
  readonly outputFolder: string;
  /** What the environment sets, so that it cannot be changed here. */
  readonly fixed: { readonly media: boolean; readonly output: boolean };
  readonly dataFolder: string;
  readonly database: 'embedded' | 'server';
}

/** Encoders in the machine's hardware that the engine knows. */
export interface HardwareView {
  readonly encoders: readonly {
    readonly codec: RatedCodec;
    /** As the trade calls its kind. */
    readonly kind: string;
    /** Whether a few frames came out of it on this machine. */
    readonly works: boolean;
  }[];
}

/** Captions that go with a rendition. */
export interface CaptionView {
  /** The language, or the name of a file beside the master. */
  readonly label: string;
  /** Whether they can be handed over as text. */
  readonly isText: boolean;
}

/** What the analysis of a programme found so far; null for what was not measured. */
export interface AnalysisView {
  readonly state: 'waiting' | 'running' | 'done' | 'failed';
  readonly problem?: Problem;
  readonly fraction: number;
  /** Seconds of work it took, when it is done. */
  readonly costSeconds: number | null;
  readonly scan: Findings['scan'];
  readonly bars: Findings['bars'];
  /** Whether a picture with transparency shows none. */
  readonly opaque: Findings['opaque'];
  readonly frameRateMode: 'constant' | 'variable' | null;
  readonly black: Findings['black'] | null;
  readonly frozen: Findings['frozen'] | null;
  readonly silence:
    | readonly {
        readonly startSeconds: number;
        readonly endSeconds: number;
        /** null for sound only. */
        readonly inFrame: number | null;
        readonly outFrame: number | null;
      }[]
    | null;
  readonly sceneChanges: Findings['sceneChanges'] | null;
  readonly loudness: Findings['loudness'];
  readonly channels: Findings['channels'];
  readonly damaged: Findings['damaged'] | null;
  readonly busyness: Findings['busyness'];
  readonly advisories: readonly Advisory[];
}

/** What is drawn along a programme's length. */
export interface StripsView {
  /** Seconds of each value of `spent` and `busyness`. */
  readonly stepSeconds: number;
  /** Bytes the source's picture spends. */
  readonly spent: readonly number[];
  /** Bits the picture needs; null until it was measured. */
  readonly busyness: readonly number[] | null;
  readonly sound: Findings['sound'];
  /** Frames from one small picture to the next; 0 for sound only. */
  readonly pictureInterval: number;
}

/** When each frame is shown, in seconds from the first; null at a constant rate, where the rate says it all. */
export interface FrameTimesView {
  readonly seconds: readonly number[] | null;
}

/** Frames at which a copy may begin, rising: keyframes that nothing before them is shown after. */
export interface CutsView {
  readonly frames: readonly number[];
}

export interface PortionView extends Portion {
  readonly id: string;
  readonly name: string;
}

/** The order line of a programme as it was left; null when nobody changed it. */
export interface WorkingOrderView {
  readonly recipe: Recipe | null;
  /** For which receiver it is. */
  readonly briefId: string | null;
}

/** Taking in many files: found = takenIn + alreadyIn + refusedCount once it is done. */
export interface TakeInView {
  readonly id: string;
  readonly state: 'searching' | 'taking' | 'done' | 'stopped';
  readonly paths: readonly string[];
  readonly found: number;
  readonly takenIn: number;
  readonly alreadyIn: number;
  readonly refusedCount: number;
  /** The first hundred of them. */
  readonly refused: readonly { readonly path: string; readonly code: string; readonly message: string }[];
  readonly startedAt: string;
  readonly endedAt: string | null;
}

/** Server-sent events: the name and what travels with it. */
export type ServerEvent =
  | { readonly type: 'rendition'; readonly rendition: RenditionSummary }
  /** A rendition moved on; nothing else of it changed. */
  | { readonly type: 'position'; readonly id: string; readonly position: RenditionPosition }
  | { readonly type: 'programme'; readonly programme: ProgrammeSummary }
  | { readonly type: 'programme-forgotten'; readonly programmeId: string }
  /** The order line or the portions of a programme were changed, by which page where that is known. */
  | { readonly type: 'work'; readonly programmeId: string; readonly page: string | null }
  | { readonly type: 'sounding'; readonly programmeId: string }
  | { readonly type: 'trial'; readonly programmeId: string; readonly hasEnded: boolean }
  /** Recipes, bundles or briefs were changed. */
  | { readonly type: 'shelf'; readonly kind: ShelfKind }
  /** A batch was asked for, or moved on. */
  | { readonly type: 'batch'; readonly id: string }
  /** The queue was paused, opened, or put in another order. */
  | { readonly type: 'queue' }
  | {
      readonly type: 'analysis';
      readonly programmeId: string;
      readonly state: AnalysisView['state'];
      readonly fraction: number;
    }
  | { readonly type: 'takein'; readonly takeIn: TakeInView };
