import { VIDEO_CODECS } from '../../src/core/video/codecs.ts';
import { execFileSync } from 'node:child_process';
import { chmodSync, mkdirSync, readdirSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it, vi } from 'vitest';
import type {
  ErrorBody,
  RenditionPosition,
  RenditionSummary,
  RenditionView,
  SystemView,
} from '../../src/contract/views.ts';
import { drawMaster } from '../support/footage.ts';
import { canMount } from '../support/mounting.ts';
import { enginesOn, IN_TIME, makeFolders, startServer, type TestFolders, type TestServer } from '../support/server.ts';

const slow = {
  video: { codec: 'h264', rate: { mode: 'average', kbps: 1500, passes: 2 }, effort: 'balanced' },
  audio: { codec: 'aac', kbps: 64, channels: 'mono' },
};

async function prepare(
  environment: Record<string, string> = {},
): Promise<{ folders: TestFolders; server: TestServer; order: (recipe: object) => Promise<RenditionView> }> {
  const folders = makeFolders();
  mkdirSync(folders.media, { recursive: true });
  const master = drawMaster(path.join(folders.media, 'master.mov'), { seconds: 6, size: '480x270', grain: 15 });
  const server = await startServer(folders, environment);
  const programme = await server.takeIn(master);
  const order = async (recipe: object) => {
    const { status, body } = await server.call<RenditionView>('POST', 'renditions', {
      programmeId: programme.id,
      recipe,
    });
    if (status !== 201) throw new Error(JSON.stringify(body));
    return body;
  };
  return { folders, server, order };
}

const partials = (folder: string) => readdirSync(folder).filter((name) => name.endsWith('.partial'));

describe('a server that dies', () => {
  it('leaves no encoder running, and the next one finishes the queue once', async () => {
    const { folders, server, order } = await prepare();
    const [first, second] = [await order(slow), await order({ ...slow, video: { ...slow.video, effort: 'fast' } })];
    await server.waitFor(first.id, (rendition) => rendition.stage === 'encode' && rendition.fraction > 0.4);
    await server.end('SIGKILL');
    await vi.waitUntil(() => enginesOn(folders.root).length === 0, { timeout: 5000 });

    const next = await startServer(folders);
    const ended = [await next.waitFor(first.id), await next.waitFor(second.id)];
    expect(ended.map((rendition) => rendition.state)).toEqual(['done', 'done']);
    await vi.waitUntil(() => partials(folders.output).length === 0, IN_TIME);
    expect(readdirSync(folders.output).sort()).toEqual(ended.map((rendition) => rendition.name).sort());
    await vi.waitUntil(() => readdirSync(path.join(folders.data, 'work')).length === 0, IN_TIME);
    await next.end('SIGTERM');
  });

  it('ends with everything it started on Ctrl-C, and goes on later', async () => {
    const { folders, server, order } = await prepare();
    const rendition = await order(slow);
    await server.waitFor(rendition.id, (one) => one.fraction > 0.1);
    await server.end('SIGINT');
    expect(enginesOn(folders.root)).toEqual([]);
    expect(partials(folders.output)).toEqual([]);
    const next = await startServer(folders);
    expect((await next.waitFor(rendition.id)).state).toBe('done');
    await next.end('SIGTERM');
  });

  it('is alone on its data folder', async () => {
    const { folders, server } = await prepare();
    await expect(startServer(folders)).rejects.toThrow(/in use by another Linstock/);
    await server.end('SIGTERM');
  });
});

describe('events', () => {
  it('tell every step of a rendition', async () => {
    const { server, order } = await prepare();
    const abort = new AbortController();
    const response = await fetch(`${server.address}/api/events`, { signal: abort.signal });
    const states: string[] = [];
    const listening = (async () => {
      let text = '';
      for await (const chunk of response.body!.pipeThrough(new TextDecoderStream())) {
        text += chunk;
        const events = text.split('\n\n');
        text = events.pop() ?? '';
        for (const event of events.filter((one) => /^event: (rendition|position)\n/.test(one))) {
          const told = JSON.parse(event.slice(event.indexOf('data: ') + 6)) as {
            rendition?: RenditionSummary;
            position?: RenditionPosition;
          };
          const { state } = (told.rendition ?? told.position)!;
          if (states.at(-1) !== state) states.push(state);
          if (state === 'done') return;
        }
      }
    })();
    await order({ ...slow, video: { ...slow.video, effort: 'fast' } });
    await listening;
    abort.abort();
    expect(states).toEqual(['queued', 'running', 'checking', 'done']);
    await server.end('SIGTERM');
  });
});

describe('a machine that lacks something', () => {
  it('an encoder: it is shown as missing and refused by name', async () => {
    const folders = makeFolders();
    mkdirSync(folders.root, { recursive: true });
    const partial = path.join(folders.root, 'ffmpeg');
    writeFileSync(
      partial,
      '#!/bin/sh\ncase "$*" in *-encoders*) ffmpeg -hide_banner -encoders | grep -v libx265;; *) exec ffmpeg "$@";; esac\n',
    );
    chmodSync(partial, 0o755);
    const { server } = await prepare({ LINSTOCK_FFMPEG: partial });
    const system = (await server.call<SystemView>('GET', 'system')).body;
    expect(system.engine).toMatchObject({
      encoders: VIDEO_CODECS.filter((codec) => codec !== 'hevc'),
      problem: expect.stringContaining('libx265') as string,
    });
    const programmes = await server.programmes();
    const { status, body } = await server.call<ErrorBody>('POST', 'renditions', {
      programmeId: programmes[0]?.id,
      recipe: { ...slow, video: { ...slow.video, codec: 'hevc' } },
    });
    expect({ status, code: body.error.code, field: body.error.field }).toEqual({
      status: 422,
      code: 'encoder-missing',
      field: 'recipe.video.codec',
    });
    await server.end('SIGTERM');
  });

  it('the whole engine: it starts, and says what to do', async () => {
    const folders = makeFolders();
    mkdirSync(folders.media, { recursive: true });
    const master = drawMaster(path.join(folders.media, 'master.mov'), { seconds: 1 });
    const server = await startServer(folders, {
      LINSTOCK_FFMPEG: '/nowhere/ffmpeg',
      LINSTOCK_FFPROBE: '/nowhere/ffprobe',
    });
    const { status, body } = await server.call<ErrorBody>('POST', 'programmes', { path: master });
    expect({ status, code: body.error.code }).toEqual({ status: 503, code: 'engine-missing' });
    await server.end('SIGTERM');
  });
});

describe.runIf(canMount)('a destination', () => {
  it('that is too small is refused beforehand, one that fills up is waited for and holds nothing', async () => {
    const { folders, server, order } = await prepare();
    mkdirSync(folders.output, { recursive: true });
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=1200k', 'tmpfs', folders.output]);
    try {
      await expect(
        order({ ...slow, video: { ...slow.video, rate: { mode: 'size', bytes: 5_000_000 } } }),
      ).rejects.toThrow(/destination-full/);
      // What constant quality comes to is not known beforehand, so this one fills the disk.
      const rendition = await order({
        ...slow,
        video: { ...slow.video, effort: 'fast', rate: { mode: 'quality', value: 4 } },
      });
      const waits = await server.waitFor(rendition.id, ({ problem }) => problem?.code === 'destination-full');
      expect(waits).toMatchObject({ state: 'queued', hasFile: false });
      expect(waits.problem?.message).toMatch(/^It waits for room\. /);
      await expect.poll(() => readdirSync(folders.output), { timeout: 10_000 }).toEqual([]);
      expect(statSync(folders.output).isDirectory()).toBe(true);
      // There is room again, and someone does not want to wait for the next look.
      execFileSync('mount', ['-o', 'remount,size=60m', folders.output]);
      await server.call('PATCH', `renditions/${rendition.id}`, { paused: false });
      expect(await server.waitFor(rendition.id)).toMatchObject({ state: 'done' });
    } finally {
      await server.end('SIGTERM');
      execFileSync('umount', [folders.output]);
    }
  });

  it('that is read-only is refused beforehand', async () => {
    const { folders, server, order } = await prepare();
    mkdirSync(folders.output, { recursive: true });
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'ro', 'tmpfs', folders.output]);
    try {
      await expect(order(slow)).rejects.toThrow(/destination-read-only/);
    } finally {
      await server.end('SIGTERM');
      execFileSync('umount', [folders.output]);
    }
  });
});
