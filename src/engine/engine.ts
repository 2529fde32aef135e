import type { MeasuredStretch } from '../core/analysis/measured.ts';
import type { PairMeasures } from '../core/quality/pairReader.ts';
import type { Container } from '../core/container/names.ts';
import type {
  EncodedPicture,
  EncodeMaster,
  EncodedSoundStream,
  MasteredPicture,
  PictureFacts,
  PicturePath,
} from '../core/plan/encodePlan.ts';
import type { ProgrammeFacts } from '../core/programme/facts.ts';
import type { TimedPacket } from '../core/rate/bufferModel.ts';
import type { GaugedStretch } from '../core/sounding/sounding.ts';
import type { RatedCodec, VideoCodec } from '../core/video/codecs.ts';
import type { SoundCodec } from '../core/sound/codecs.ts';
import type { SoundLevel } from '../core/sound/loudness.ts';
import type { PictureFiles, PictureWay } from './arguments/encode.ts';
import type { PictureRun } from './encoders/encoder.ts';
import type { HardwareKind } from './encoders/hardware.ts';
import type { CaptionSource } from './arguments/captions.ts';
import type { CopyRequest, SoundCopy } from './arguments/copy.ts';
import type { QuickGroupsRequest } from './arguments/quickGroups.ts';
import type { ComparedResult } from './arguments/compare.ts';
import type { Hold } from './process/hold.ts';
import type { SoundFile } from './arguments/input.ts';
import type { WrittenLabels } from './arguments/labels.ts';
import type { JoinSource } from './arguments/join.ts';
import type { StandInRequest } from './arguments/standIn.ts';
import type { SizedStillRequest, StillRequest } from './arguments/still.ts';
import type { GroupListing, PictureGroup } from './parsing/groups.ts';
import type { PacketTally } from './parsing/packets.ts';
import type { ProbeReport } from './parsing/report.ts';
import type { AnalysisRequest } from './arguments/analyse.ts';
import type { EngineProgress } from './parsing/progress.ts';

/** Sound that was copied out of a master. */
export interface WeighedCopy {
  readonly bytes: number;
  /** How long after the place it was taken from its first packet is due; less than 0 for one underway there. */
  readonly delaySeconds: number;
}

/** Sounds that go into one file, all in one codec. */
export interface SoundsRequest {
  readonly sounds: readonly EncodedSoundStream[];
  readonly container: Container;
  readonly source: string;
  readonly output: string;
  /** Of a file that is a result by itself. */
  readonly labels: WrittenLabels | null;
}

/** What a joined file is made of. */
export interface JoinRequest {
  readonly out: PictureFacts;
  readonly container: Container;
  /** One for each group; all of the same settings. */
  readonly sources: readonly JoinSource[];
  /** As they lie in every pass. */
  readonly groups: readonly PictureGroup[];
  readonly sound: SoundFile | null;
  readonly output: string;
  readonly labels: WrittenLabels | null;
}

/** Which codec at which constant qualities, or which one for masters, as it is. */
export type GaugeRequest =
  | { readonly codec: RatedCodec; readonly qualities: readonly number[]; readonly keyframeInterval: number }
  | { readonly master: EncodeMaster };

/** What a group of pictures took in a quick encode, and what it lost. */
export interface QuickGroup {
  readonly bytes: number;
  /** Means over its frames, of luma: what SSIM misses of 1, and the squared error in 8-bit steps. */
  readonly ssimLoss: number;
  readonly mse: number;
}

/** What is installed on this machine. */
export interface EngineReport {
  readonly version: string | null;
  readonly encoders: readonly VideoCodec[];
  readonly soundEncoders: readonly SoundCodec[];
  /** Why something is missing, for people; null when all is there. */
  readonly problem: string | null;
}

/** An encoder in the machine's hardware, which the engine knows. */
export interface HardwareEncoder {
  readonly codec: RatedCodec;
  readonly kind: HardwareKind;
  /** Whether a few frames came out of it here. */
  readonly works: boolean;
}

/** Everything a long run is given besides its work. */
export interface RunOptions {
  /** Where logs and statistics are written; made by the caller. */
  readonly workingFolder: string;
  readonly signal: AbortSignal;
  readonly onProgress: (progress: EngineProgress) => void;
  /** Lets it stand still where it is, and go on. */
  readonly hold?: Hold;
}

/** A file looked at without decoding it. */
export interface Inspection {
  readonly report: ProbeReport;
  readonly tallies: Map<number, PacketTally>;
}

/** What is found in a file that is a programme. */
export interface Probed {
  readonly facts: ProgrammeFacts;
  /** When each frame is shown, in seconds from the first; null at a constant rate. */
  readonly frameTimes: readonly number[] | null;
  /** Bytes the picture spends in each half second; empty for sound only. */
  readonly spent: readonly number[];
  /** The engine's own words, for whoever wants all of them. */
  readonly raw: ProbeReport;
}

/** Drives the encoders; every method rejects with EngineError. */
export interface Engine {
  report(): Promise<EngineReport>;
  /** Tries each hardware encoder with a few frames, once. */
  probeHardware(): Promise<HardwareEncoder[]>;
  /** Reads a file's facts, and counts and times every packet. */
  probe(path: string, signal?: AbortSignal): Promise<Probed>;
  inspect(path: string, signal?: AbortSignal): Promise<Inspection>;
  /** Encodes the sounds of a result into one file, all in one codec, each as loud as it is to be. */
  encodeSounds(request: SoundsRequest, options: RunOptions): Promise<void>;
  encodePicture(picture: EncodedPicture, run: PictureRun, files: PictureFiles, options: RunOptions): Promise<void>;
  /** Encodes the same frames in several ways, in one decode, each into a file of its own. */
  encodeWays(ways: readonly PictureWay[], source: string, options: RunOptions): Promise<void>;
  /** Encodes a picture for editing or the archive. */
  encodeMaster(picture: MasteredPicture, files: PictureFiles, options: RunOptions): Promise<void>;
  /** Takes a master's sounds out by themselves, untouched, into a file that waits for its picture. */
  copySounds(sound: SoundCopy, source: string, output: string, options: RunOptions): Promise<WeighedCopy>;
  /** The packets of a result's picture, in the order they are decoded. */
  timePackets(path: string, signal?: AbortSignal): Promise<TimedPacket[]>;
  /** Puts a master's own streams into a file of another kind, untouched. */
  copyStreams(request: CopyRequest, options: RunOptions): Promise<void>;
  /** The groups of pictures of a result. */
  listGroups(path: string, signal: AbortSignal): Promise<GroupListing>;
  /** Puts one file together from groups of pictures of several files, and the sound beside it. */
  joinGroups(request: JoinRequest, options: RunOptions): Promise<void>;
  /**
   * Encodes a stretch quickly at several constant qualities in one decode.
   *
   * @returns What it took at each quality, in the order given.
   */
  gauge(path: PicturePath, video: GaugeRequest, source: string, options: RunOptions): Promise<GaugedStretch[]>;
  /**
   * Encodes a picture quickly at a finer and a coarser constant quality in one decode, with keyframes at fixed places.
   *
   * @returns Each group's, the finer encode first.
   */
  weighGroups(
    path: PicturePath,
    request: QuickGroupsRequest,
    source: string,
    options: RunOptions,
  ): Promise<readonly [fine: QuickGroup[], coarse: QuickGroup[]]>;
  /**
   * Measures one stretch in one decode and leaves its small pictures in the working folder.
   *
   * @param onFrames - Told how many frames were measured so far, now and then.
   */
  analyse(
    request: AnalysisRequest,
    options: Omit<RunOptions, 'onProgress'> & {
      /** Gives way to everything someone waits for. */
      readonly isGentle: boolean;
      readonly onFrames: (frames: number) => void;
    },
  ): Promise<MeasuredStretch>;
  /**
   * How loud a file's sound is.
   *
   * @param track - Which of them, from 0.
   */
  measureLoudness(path: string, track: number, signal?: AbortSignal): Promise<SoundLevel>;
  /**
   * Holds results against their master, frame by frame: errors, errors as they are seen, likeness, tint, lost levels.
   *
   * @param results - Of the same frames of the master, which came to them in the same way but for their frame sizes.
   * @returns In the order of the results, one entry for every frame that all of them and the master have.
   */
  compare(
    master: string,
    results: readonly [ComparedResult, ...ComparedResult[]],
    options: RunOptions,
  ): Promise<readonly (readonly PairMeasures[])[]>;
  /** @returns Captions as WebVTT, by the clock of their file. */
  captions(source: CaptionSource, signal?: AbortSignal): Promise<string>;
  /** @returns One piece of a light copy, a fragmented MP4. */
  standIn(request: StandInRequest, signal?: AbortSignal): Promise<Buffer>;
  /** @returns PNG bytes. */
  still(request: StillRequest, signal?: AbortSignal): Promise<Buffer>;
  /** @returns For each frame, all of one size, its RGB bytes, three a pixel. */
  rawFrames(requests: readonly SizedStillRequest[], signal?: AbortSignal): Promise<Buffer[]>;
}
