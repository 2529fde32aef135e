import { spawn, type ChildProcess } from 'node:child_process';
import { readdirSync, readFileSync, readlinkSync } from 'node:fs';
import path from 'node:path';
import type { ListPage, ProgrammeSummary, ProgrammeView, RenditionView } from '../../src/contract/views.ts';
import { makeFolder } from './footage.ts';

export interface Answer<Body> {
  readonly status: number;
  readonly body: Body;
}

/** A real server in a process of its own, on a port of its own. */
export interface TestServer {
  readonly address: string;
  readonly process: ChildProcess;
  call<Body = never>(method: string, path: string, body?: unknown): Promise<Answer<Body>>;
  waitFor(id: string, until?: (rendition: RenditionView) => boolean): Promise<RenditionView>;
  takeIn(file: string): Promise<ProgrammeView>;
  /** The first page of them. */
  programmes(): Promise<readonly ProgrammeSummary[]>;
  /** Sends a signal and waits for the end. */
  end(signal: NodeJS.Signals): Promise<void>;
}

export interface TestFolders {
  readonly root: string;
  readonly media: string;
  readonly output: string;
  readonly data: string;
}

export function makeFolders(): TestFolders {
  const root = makeFolder();
  return { root, media: path.join(root, 'media'), output: path.join(root, 'out'), data: path.join(root, 'data') };
}

/** For what comes by itself, however busy the machine is. */
export const IN_TIME = { timeout: 60_000 } as const;

const ENDED = ['done', 'failed', 'stopped'];

/** Starts the built application as `./linstock start` does. */
export async function startServer(folders: TestFolders, environment: Record<string, string> = {}): Promise<TestServer> {
  const child = spawn(process.execPath, ['--import', 'tsx', 'scripts/serve.ts'], {
    env: {
      ...process.env,
      LINSTOCK_DATA: folders.data,
      LINSTOCK_MEDIA: folders.media,
      LINSTOCK_OUTPUT: folders.output,
      LINSTOCK_PORT: '0',
      ...environment,
    },
    stdio: ['ignore', 'pipe', 'pipe'],
  });
  const address = await waitForAddress(child);
  const call = async <Body>(method: string, where: string, body?: unknown): Promise<Answer<Body>> => {
    const init = body === undefined ? {} : { body: typeof body === 'string' ? body : JSON.stringify(body) };
    const response = await fetch(`${address}/api/${where}`, { method, ...init });
    const text = await response.text();
    return {
      status: response.status,
      body: (text && response.headers.get('content-type')?.includes('json') ? JSON.parse(text) : text) as Body,
    };
  };
  return {
    address,
    process: child,
    call,
    waitFor: async (id, until = (rendition) => ENDED.includes(rendition.state)) => {
      for (;;) {
        const { body } = await call<RenditionView>('GET', `renditions/${id}`);
        if (until(body)) return body;
        if (ENDED.includes(body.state)) throw new Error(`Ended as ${body.state}: ${body.problem?.message ?? ''}`);
        await new Promise((resolve) => setTimeout(resolve, 50));
      }
    },
    takeIn: async (file) => {
      const { status, body } = await call<ProgrammeView>('POST', 'programmes', { path: file });
      if (status !== 201) throw new Error(JSON.stringify(body));
      return body;
    },
    programmes: async () => (await call<ListPage<ProgrammeSummary>>('GET', 'programmes')).body.rows,
    end: (signal) =>
      new Promise((resolve) => {
        child.once('exit', () => resolve());
        child.kill(signal);
      }),
  };
}

function waitForAddress(child: ChildProcess): Promise<string> {
  return new Promise((resolve, reject) => {
    let said = '';
    const listen = (chunk: Buffer) => {
      said += chunk.toString();
      const match = /ready at (http:\S+)/.exec(said);
      if (match?.[1]) resolve(match[1]);
    };
    child.stdout?.on('data', listen);
    child.stderr?.on('data', listen);
    child.once('exit', (code) => reject(new Error(`The server ended with ${code}: ${said}`)));
  });
}

/** Process ids of engines whose command line mentions a folder. */
export function enginesOn(folder: string): number[] {
  return enginesWhere((_, line) => line.some((part) => part.includes(folder)));
}

/** Engines that work in a folder, or in one whose name begins like it. */
export function enginesIn(folder: string): number[] {
  return enginesWhere((id) => readlinkSync(`/proc/${id}/cwd`).startsWith(folder));
}

function enginesWhere(isMeant: (id: number, line: readonly string[]) => boolean): number[] {
  return readdirSync('/proc')
    .filter((name) => /^\d+$/.test(name))
    .map(Number)
    .filter((id) => {
      try {
        const line = readFileSync(`/proc/${id}/cmdline`, 'utf8').split('\0');
        return /ff(mpeg|probe)$/.test(line[0] ?? '') && isMeant(id, line);
      } catch {
        return false;
      }
    });
}

/** Whether a process is stopped where it is. */
export function isFrozen(id: number): boolean {
  return readFileSync(`/proc/${id}/stat`, 'utf8').split(') ').at(-1)?.startsWith('T') ?? false;
}
