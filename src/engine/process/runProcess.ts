import { existsSync } from 'node:fs';
import { setPriority } from 'node:os';
import { execa } from 'execa';
import { EngineError } from '../engineError.ts';

/** A child gets this long to end by itself before it is killed. */
const KILL_DELAY_MS = 3000;

/** Lowest but a few of the kernel's twenty steps. */
const GENTLE_PRIORITY = 15;

/** The log's end is what matters, and a damaged file can make it endless. */
const LOG_LIMIT = 200_000;

/**
 * Lets the kernel end a child when this process dies in whatever way, so that no encoder is ever left running.
 * It is part of Debian's base system (util-linux); without it children still end on any orderly stop.
 */
const DEATH_WATCH = ['/usr/bin/setpriv', '/bin/setpriv'].find((path) => existsSync(path));

/** Holds a child to an amount of memory; of the same package. */
const MEMORY_WATCH = ['/usr/bin/prlimit', '/bin/prlimit'].find((path) => existsSync(path));

export interface ProcessRequest {
  readonly file: string;
  readonly arguments: readonly string[];
  readonly workingFolder?: string;
  readonly signal?: AbortSignal;
  /** Gives way to everything else: for work nobody waits on. */
  readonly isGentle?: boolean;
  /** A file with an absurd header must not take the machine's memory; without a limit where prlimit is missing. */
  readonly memoryLimitBytes?: number;
  /** A child that writes nothing for so long hangs, as some do when their memory runs out, and is ended. */
  readonly silenceLimitMs?: number;
  /** Called for every line of standard output, which is then not collected. */
  readonly onLine?: (line: string) => void;
  /** Called for every line of standard error; lines it answers true to are taken and not kept. */
  readonly onLogLine?: (line: string) => boolean;
}

export interface ProcessResult {
  readonly exitCode: number;
  /** Empty when lines were taken one by one. */
  readonly stdout: Buffer;
  readonly stderr: string;
}

/**
 * Runs one child process to its end: no shell, standard input closed, an argument array, one signal that ends it.
 *
 * @returns Also for exit codes other than 0; the caller decides what they mean.
 * @throws EngineError `engine-missing` when the program cannot be started, `stopped` when the signal fired,
 * `engine-silent` when it wrote nothing for too long.
 */
export async function runProcess(request: ProcessRequest): Promise<ProcessResult> {
  const [file = request.file, ...args] = [
    ...(MEMORY_WATCH && request.memoryLimitBytes ? [MEMORY_WATCH, `--as=${request.memoryLimitBytes}`] : []),
    ...(DEATH_WATCH ? [DEATH_WATCH, '--pdeathsig', 'KILL'] : []),
    request.file,
    ...request.arguments,
  ];
  const child = execa(file, args, {
    stdin: 'ignore',
    stdout: 'pipe',
    stderr: 'pipe',
    encoding: 'buffer',
    buffer: false,
    reject: false,
    forceKillAfterDelay: KILL_DELAY_MS,
    ...(request.workingFolder ? { cwd: request.workingFolder } : {}),
    ...(request.signal ? { cancelSignal: request.signal } : {}),
  });
  if (request.isGentle && child.pid !== undefined) yieldTo(child.pid);
  const output = request.onLine ? splitLines(request.onLine) : collect();
  const log = collectTail(request.onLogLine);
  const silence = watchSilence(request.silenceLimitMs, () => child.kill());
  for (const [stream, reader] of [[child.stdout, output] as const, [child.stderr, log] as const]) {
    stream.on('data', (chunk: Buffer) => {
      silence.hear();
      reader.take(chunk);
    });
  }
  const result = await child;
  silence.end();
  if (request.signal?.aborted)
    throw new EngineError('stopped', 'The work was stopped.', { cause: request.signal.reason });
  const stderr = log.finish();
  if (silence.isBroken()) {
    const message = 'The engine did nothing more and was ended; the file may be damaged, or ask for too much memory.';
    throw new EngineError('engine-silent', message, { stderr });
  }
  if (isMissing(result.code, result.exitCode, stderr)) {
    throw new EngineError('engine-missing', missingMessage(request.file), { stderr });
  }
  return { exitCode: result.exitCode ?? -1, stdout: output.finish(), stderr };
}

/** @param limitMs - Without one nothing is watched. */
function watchSilence(
  limitMs: number | undefined,
  onSilence: () => void,
): { hear: () => void; end: () => void; isBroken: () => boolean } {
  let isBroken = false;
  const timer =
    limitMs === undefined
      ? null
      : setTimeout(() => {
          isBroken = true;
          onSilence();
        }, limitMs);
  return {
    hear: () => void timer?.refresh(),
    end: () => timer && clearTimeout(timer),
    isBroken: () => isBroken,
  };
}

function yieldTo(pid: number): void {
  try {
    setPriority(pid, GENTLE_PRIORITY);
  } catch {
    // The child may have ended already; there is nothing left to slow down.
  }
}

function isMissing(code: string | undefined, exitCode: number | undefined, stderr: string): boolean {
  return (
    code === 'ENOENT' || code === 'EACCES' || ((exitCode === 127 || exitCode === 126) && stderr.startsWith('setpriv:'))
  );
}

function missingMessage(file: string): string {
  return `The engine “${file}” cannot be started; install Debian’s ffmpeg package, or name the program in LINSTOCK_FFMPEG and LINSTOCK_FFPROBE.`;
}

function collect(): { take: (chunk: Buffer) => void; finish: () => Buffer } {
  const chunks: Buffer[] = [];
  return { take: (chunk) => void chunks.push(chunk), finish: () => Buffer.concat(chunks) };
}

function collectTail(onLine?: (line: string) => boolean): { take: (chunk: Buffer) => void; finish: () => string } {
  let text = '';
  const keep = (more: string) => void (text = (text + more).slice(-LOG_LIMIT));
  if (!onLine) return { take: (chunk) => keep(chunk.toString('utf8')), finish: () => text };
  const lines = splitLines((line) => {
    if (!onLine(line)) keep(`${line}\n`);
  });
  return {
    take: lines.take,
    finish: () => {
      lines.finish();
      return text;
    },
  };
}

function splitLines(onLine: (line: string) => void): { take: (chunk: Buffer) => void; finish: () => Buffer } {
  let rest = '';
  return {
    take: (chunk) => {
      const lines = (rest + chunk.toString('utf8')).split('\n');
      rest = lines.pop() ?? '';
      lines.forEach(onLine);
    },
    finish: () => {
      if (rest) onLine(rest);
      return Buffer.alloc(0);
    },
  };
}
