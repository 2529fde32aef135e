import { StringDecoder } from 'node:string_decoder';

/** The log's end is what matters, and a damaged file can make it endless. */
const LOG_LIMIT = 200_000;

/** What is longer is no line of anybody's. */
const LINE_LIMIT = 1_000_000;

/** A reader that throws ends the child instead of the server. */
export function guardReaders(onFailure: () => void) {
  let failure: { readonly error: unknown } | null = null;
  return {
    failure: () => failure,
    guard:
      <Result>(read: (line: string) => Result, otherwise?: Result) =>
      (line: string): Result => {
        if (failure) return otherwise as Result;
        try {
          return read(line);
        } catch (error) {
          failure = { error };
          onFailure();
          return otherwise as Result;
        }
      },
  };
}

/** Takes everything. */
export function collect(): { take: (chunk: Buffer) => void; finish: () => Buffer } {
  const chunks: Buffer[] = [];
  return { take: (chunk) => void chunks.push(chunk), finish: () => Buffer.concat(chunks) };
}

/** Keeps the end of what is written, but for lines that are taken. */
export function collectTail(onLine?: (line: string) => boolean): {
  take: (chunk: Buffer) => void;
  finish: () => string;
} {
  let text = '';
  const keep = (more: string) => void (text = (text + more).slice(-LOG_LIMIT));
  if (!onLine) {
    const decoder = new StringDecoder('utf8');
    return {
      take: (chunk) => keep(decoder.write(chunk)),
      finish: () => {
        keep(decoder.end());
        return text;
      },
    };
  }
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

/** Hands on whole lines. */
export function splitLines(onLine: (line: string) => void): { take: (chunk: Buffer) => void; finish: () => Buffer } {
  // Characters of several bytes may be split between two chunks.
  const decoder = new StringDecoder('utf8');
  let rest = '';
  return {
    take: (chunk) => {
      const lines = (rest + decoder.write(chunk)).split('\n');
      rest = (lines.pop() ?? '').slice(0, LINE_LIMIT);
      lines.forEach(onLine);
    },
    finish: () => {
      rest += decoder.end();
      if (rest) onLine(rest);
      return Buffer.alloc(0);
    },
  };
}
