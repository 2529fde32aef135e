import { makeStorable } from '../core/text.ts';

/** What can go wrong when the engine works; callers branch on these and never on text. */
export type EngineErrorCode =
  | 'engine-missing'
  | 'file-empty'
  | 'file-is-script'
  | 'file-is-picture'
  | 'file-cut-off'
  | 'file-not-media'
  | 'file-absurd'
  | 'file-damaged'
  | 'file-unreadable'
  | 'destination-full'
  | 'destination-read-only'
  | 'destination-gone'
  | 'frame-outside'
  | 'frame-unreadable'
  | 'captions-unreadable'
  | 'memory-limit'
  | 'engine-silent'
  | 'engine-killed'
  | 'rate-too-low'
  | 'hardware-missing'
  | 'stopped'
  | 'engine-failed';

/** A failed engine run: a sentence for people, and the raw end of what the engine said for the curious. */
export class EngineError extends Error {
  readonly code: EngineErrorCode;
  /** At most 4,000 characters. */
  readonly stderrTail: string;

  constructor(code: EngineErrorCode, message: string, options: { stderr?: string; cause?: unknown } = {}) {
    super(message, { cause: options.cause });
    this.name = 'EngineError';
    this.code = code;
    // Cut in the middle of a character, or written by a broken encoder, it could not be recorded.
    this.stderrTail = makeStorable((options.stderr ?? '').slice(-4000));
  }
}

/**
 * Tells an engine error by its name: the server's code is bundled in several pieces, each with a class of its own.
 */
export function isEngineError(error: unknown): error is EngineError {
  return error instanceof Error && error.name === 'EngineError';
}
