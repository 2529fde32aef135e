/** The programs of the engine, by path or by a name that is found. */
export interface EnginePaths {
  readonly ffmpeg: string;
  readonly ffprobe: string;
  /** Whether the machine is taken to have encoders in hardware that it has not, to try what is done with them. */
  readonly simulatesHardware?: boolean;
}

/** A program that is asked what it is answers soon. */
export const ASKING_LIMITS = { timeLimitMs: 60_000 };

/** The largest pictures at the most thorough settings take less; what asks for more is damaged or absurd. */
export const ENCODE_MEMORY_BYTES = 12_000_000_000;

/** An encoder that gets no further for so long stands still. */
export const NO_NEW_FRAME_MS = 120_000;

/** One frame, or a few seconds of a stand-in. */
export const PICTURE_LIMITS = { memoryLimitBytes: 4_000_000_000, timeLimitMs: 120_000 };

/**
 * Looking at a file and analysing it may take this much memory; a frame or a packet is written at least this often, also
 * where everything else has the machine.
 */
export const READING_LIMITS = { memoryLimitBytes: 8_000_000_000, silenceLimitMs: 90_000 };
