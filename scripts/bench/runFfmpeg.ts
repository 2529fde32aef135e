import { execFileSync } from 'node:child_process';

/** Runs the engine by hand, to its end. */
export function runFfmpeg(args: readonly string[]): void {
  execFileSync('ffmpeg', ['-v', 'error', '-nostdin', '-y', ...args]);
}
