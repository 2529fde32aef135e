import { existsSync } from 'node:fs';
import { setPriority } from 'node:os';
import { execa } from 'execa';
import type { Hold } from './hold.ts';
import { EngineError } from '../engineError.ts';
import { collect, collectTail, guardReaders, splitLines } from './readOutput.ts';
import { watchLife } from './watchLife.ts';

/** A child gets this long to end by itself before it is killed. */
const KILL_DELAY_MS = 3000;

/** Of the kernel's twenty steps: beside what has its ordinary one, such a child gets a tenth of a core. */
const GENTLE_PRIORITY = 10;

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
  /**
   * A child that shows no sign of life for so long hangs, as some do when their memory runs out, and is ended. Reading
   * and writing much is a sign too: moving an index to the front of a large file takes minutes without a word.
   */
  readonly silenceLimitMs?: number;
  /** Which lines of standard output are signs of life; by default everything written is. */
  readonly isSignOfLife?: (line: string) => boolean;
  /** Lets it stand still where it is, and go on. */
  readonly hold?: Hold;
  /** Ends whatever is not finished by then. */
  readonly timeLimitMs?: number;
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
 * `engine-silent` when it showed no sign of life for too long or took too long in all, `engine-killed` when something
 * else ended it, `engine-failed` when what it wrote could not be read.
 */
export async function runProcess(request: ProcessRequest): Promise<ProcessResult> {
  const given = handDown(request.arguments);
  const [file = request.file, ...args] = [
    ...(MEMORY_WATCH && request.memoryLimitBytes ? [MEMORY_WATCH, `--as=${request.memoryLimitBytes}`] : []),
    ...(DEATH_WATCH ? [DEATH_WATCH, '--pdeathsig', 'KILL'] : []),
    request.file,
    ...given.arguments,
  ];
  const child = execa(file, args, {
    // The package hands on open files by their numbers at any place, though its types allow that at the first three only.
    stdio: ['ignore', 'pipe', 'pipe', ...(given.files as unknown as 'ignore'[])],
    encoding: 'buffer',
    buffer: false,
    reject: false,
    forceKillAfterDelay: KILL_DELAY_MS,
    ...(request.workingFolder ? { cwd: request.workingFolder } : {}),
    ...(request.signal ? { cancelSignal: request.signal } : {}),
  });
  if (request.isGentle && child.pid !== undefined) yieldTo(child.pid);
  const watch = watchLife(child.pid, request, () => child.kill());
  const letGo = request.hold ? obey(request.hold, (signal) => child.kill(signal), request.signal) : () => undefined;
  const readers = guardReaders(() => child.kill());
  const onLine = (line: string) => {
    if (request.isSignOfLife?.(line)) watch.hear();
    request.onLine?.(line);
  };
  const output = request.onLine || request.isSignOfLife ? splitLines(readers.guard(onLine)) : collect();
  const log = collectTail(request.onLogLine && readers.guard(request.onLogLine, true));
  for (const [stream, reader] of [[child.stdout, output] as const, [child.stderr, log] as const]) {
    stream.on('data', (chunk: Buffer) => {
      if (!request.isSignOfLife) watch.hear();
      reader.take(chunk);
    });
  }
  const result = await child;
  watch.end();
  letGo();
  if (request.signal?.aborted)
    throw new EngineError('stopped', 'The work was stopped.', { cause: request.signal.reason });
  const brokeBeforeEnd = readers.failure();
  const stdout = output.finish();
  const stderr = log.finish();
  if (brokeBeforeEnd) throw unreadable(brokeBeforeEnd.error, stderr);
  if (watch.isBroken()) {
    const message = 'The engine did nothing more and was ended; the file may be damaged, or ask for too much memory.';
    throw new EngineError('engine-silent', message, { stderr });
  }
  if (isMissing(result.code, result.exitCode, stderr)) {
    throw new EngineError('engine-missing', missingMessage(request.file), { stderr });
  }
  const killedBy = result.signal ?? OWN_WORDS_ON_SIGNALS.exec(stderr)?.[1] ?? null;
  if (killedBy !== null) {
    const message = `The engine was ended from outside (${result.signal ?? `signal ${killedBy}`}); the machine may have run out of memory.`;
    throw new EngineError('engine-killed', message, { stderr });
  }
  // A last line that was cut short says less about what happened than the exit code does.
  const brokeAtEnd = readers.failure();
  if (brokeAtEnd && result.exitCode === 0) throw unreadable(brokeAtEnd.error, stderr);
  return { exitCode: result.exitCode ?? -1, stdout, stderr };
}

/**
 * Freezes and thaws a child as its hold says. One that is frozen would not hear that it is to end, so it is thawed then.
 *
 * @returns A function that ends the obedience.
 */
function obey(hold: Hold, send: (signal: NodeJS.Signals) => void, ending: AbortSignal | undefined): () => void {
  const apply = () => send(hold.isHeld() ? 'SIGSTOP' : 'SIGCONT');
  const thaw = () => send('SIGCONT');
  if (hold.isHeld()) apply();
  const unsubscribe = hold.onChange(apply);
  ending?.addEventListener('abort', thaw, { once: true });
  return () => {
    unsubscribe();
    ending?.removeEventListener('abort', thaw);
  };
}

/** Files that this process has open, as paths name them. */
const OWN_FILES = new RegExp(`/proc/${process.pid}/fd/(\\d+)`, 'g');

/** The numbers below are standard input and output. */
const FIRST_HANDED_DOWN = 3;

/** Open files that arguments name are handed down to the child, which knows them by numbers of its own. */
function handDown(args: readonly string[]): { readonly arguments: string[]; readonly files: number[] } {
  const files: number[] = [];
  const numberOf = (file: number) => {
    if (!files.includes(file)) files.push(file);
    return FIRST_HANDED_DOWN + files.indexOf(file);
  };
  return {
    arguments: args.map((one) => one.replace(OWN_FILES, (_, file) => `/proc/self/fd/${numberOf(Number(file))}`)),
    files,
  };
}

/** How the engine reports a signal that it obeyed by ending in order. */
const OWN_WORDS_ON_SIGNALS = /Exiting normally, received signal (\d+)/;

function unreadable(error: unknown, stderr: string): EngineError {
  return new EngineError('engine-failed', 'What the engine wrote could not be read.', { stderr, cause: error });
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
