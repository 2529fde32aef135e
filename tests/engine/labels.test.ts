import { execFileSync } from 'node:child_process';
import { statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import mediaInfoFactory, { type MediaInfo } from 'mediainfo.js';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { CONTAINER } from '../../src/core/container/containers.ts';
import type { Tag } from '../../src/core/container/tags.ts';
import { CONTAINERS, type Container } from '../../src/core/container/names.ts';
import { soundCodecsOf } from '../../src/core/sound/codecs.ts';
import { RATED_CODECS, VIDEO, isRated, videoCodecsOf } from '../../src/core/video/codecs.ts';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeRendition } from '../support/encode.ts';
import { draw, makeFolder } from '../support/footage.ts';
import { readByMediaInfo, readByMp4box } from '../support/otherReaders.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
let mediaInfo: MediaInfo<'object'>;
let master = '';
/** The same streams, of which nothing is told. */
let bare = '';

const TITLES = ['Opening', 'Die Mühle; bei = Nacht #1', 'End'];

beforeAll(async () => {
  mediaInfo = await mediaInfoFactory({ format: 'object' });
  const list = path.join(folder, 'chapters.txt');
  const chapters = TITLES.map((title, index) => {
    const told = title.replace(/[=;#]/g, '\\$&');
    return `[CHAPTER]\nTIMEBASE=1/10\nSTART=${index * 12}\nEND=${index * 12 + 12}\ntitle=${told}\n`;
  });
  writeFileSync(list, `;FFMETADATA1\n${chapters.join('')}`);
  master = draw(path.join(folder, 'mill.mkv'), [
    ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=3.6', '-f', 'lavfi', '-i', 'sine=300:r=48000:d=3.6'],
    ...['-f', 'lavfi', '-i', 'sine=900:r=48000:d=3.6', '-f', 'ffmetadata', '-i', list, '-map_metadata', '3'],
    ...['-map', '0', '-map', '1', '-map', '2', '-c:v', 'libx264', '-pix_fmt', 'yuv420p', '-g', '10', '-bf', '0'],
    ...['-c:a', 'aac', '-metadata:s:v:0', 'timecode=09:59:58:00', '-metadata', 'title=Not for strangers'],
    ...['-metadata:s:a:0', 'language=deu', '-metadata:s:a:1', 'language=eng'],
    ...['-metadata:s:a:1', 'title=Commentary'],
  ]);
  bare = path.join(folder, 'bare.mkv');
  draw(bare, ['-i', master, '-map', '0', '-c', 'copy', '-map_metadata', '-1', '-map_chapters', '-1']);
});
afterAll(() => mediaInfo.close());

/** As the engine's own reader lists it. */
function listed(file: string) {
  const args = ['-v', 'error', '-show_chapters', '-show_streams', '-show_format', '-of', 'json', file];
  return JSON.parse(execFileSync('ffprobe', args, { encoding: 'utf8' })) as {
    chapters: { start_time: string; end_time: string; tags: { title: string } }[];
    streams: { codec_type: string; tags?: Record<string, string> }[];
    format: { tags?: Record<string, string> };
  };
}

const FAILED = (checks: readonly { readonly ok: boolean; readonly name: string }[]) =>
  checks.filter(({ ok }) => !ok).map(({ name }) => name);

function recipeFor(container: Container, more: object = {}) {
  const [codec] = videoCodecsOf(container);
  const video =
    CONTAINER[container].withPicture && codec
      ? isRated(codec)
        ? { codec, effort: 'fast', rate: { mode: 'quality', value: 40 } }
        : { codec }
      : null;
  const tracks = CONTAINER[container].holdsSeveralSounds ? [0, 1] : [1];
  return { container, video, audio: { codec: soundCodecsOf(container)[0], tracks }, ...more };
}

describe('what a master tells beside its streams', () => {
  it.each(CONTAINERS)('goes into %s as far as that tells it, and no more than was foreseen', async (container) => {
    const { holds } = CONTAINER[container];
    const made = await makeRendition(engine, folder, master, recipeFor(container));
    expect(FAILED(made.checks)).toEqual([]);
    const names = made.checks.map(({ name }) => name);
    expect(names.includes('Chapters')).toBe(holds.chapters);
    expect(names.includes('Timecode')).toBe(holds.timecode);
    expect(names.some((name) => name.endsWith('tells its language'))).toBe(holds.sounds);
    const { chapters, format, streams } = listed(made.file);
    expect(chapters.map(({ tags }) => tags.title)).toEqual(holds.chapters ? TITLES : []);
    expect(JSON.stringify([format, streams])).not.toContain('strangers');

    const silent = await makeRendition(engine, folder, bare, recipeFor(container));
    expect(silent.plan.labels).toBeUndefined();
    expect(listed(silent.file).chapters).toEqual([]);
    const taken = statSync(made.file).size - statSync(silent.file).size;
    const foreseen = made.plan.labels ? holds.bytesOf(made.plan.labels) : 0;
    expect(taken).toBeLessThanOrEqual(foreseen);
    expect(foreseen - taken).toBeLessThanOrEqual(200);
  });

  it('is cut to a portion, its timecode counted on', async () => {
    const recipe = recipeFor('mov', { audio: null });
    const made = await makeRendition(engine, folder, master, recipe, { inFrame: 25, outFrame: 59 });
    expect(FAILED(made.checks)).toEqual([]);
    const { chapters, streams } = listed(made.file);
    // Of the first chapter there is too little left.
    expect(chapters.map(({ tags }) => tags.title)).toEqual([TITLES[1]]);
    expect(Math.abs(Number(chapters[0]?.start_time) - 0.2)).toBeLessThan(0.03);
    expect(Number(chapters[0]?.end_time)).toBe(1.4);
    expect(streams[0]?.tags?.['timecode']).toBe('09:59:59:00');
  });

  it.each(RATED_CODECS)('stays where groups of %s are joined under a cap, which is met from below', async (codec) => {
    const bytes = 30_000;
    const container = VIDEO[codec].containers[0]!;
    const recipe = { container, video: { codec, effort: 'fast', rate: { mode: 'size', bytes } }, audio: null };
    const made = await makeRendition(engine, folder, master, recipe);
    expect(FAILED(made.checks)).toEqual([]);
    expect(statSync(made.file).size).toBeLessThanOrEqual(bytes);
    expect(listed(made.file).chapters.map(({ tags }) => tags.title)).toEqual(TITLES);
  });

  it('goes along where streams are copied, whole and in part', async () => {
    const recipe = { container: 'mov', video: { codec: 'copy' }, audio: { codec: 'copy', tracks: [1] } };
    const whole = await makeRendition(engine, folder, master, recipe);
    expect(FAILED(whole.checks)).toEqual([]);
    expect(whole.plan.labels).toMatchObject({
      timecode: '09:59:58:00',
      sounds: [{ language: 'eng', title: 'Commentary' }],
    });
    const part = await makeRendition(engine, folder, master, recipe, { inFrame: 30, outFrame: 59 });
    expect(FAILED(part.checks)).toEqual([]);
    expect(listed(part.file).chapters.map(({ tags }) => tags.title)).toEqual([TITLES[1]]);
  });

  it('is left without chapters where none are wanted', async () => {
    const made = await makeRendition(engine, folder, master, recipeFor('mp4', { file: { chapters: false } }));
    expect(FAILED(made.checks)).toEqual([]);
    expect(listed(made.file).chapters).toEqual([]);
  });

  it('is what two other libraries read, mediainfo.js and mp4box', async () => {
    const made = await makeRendition(engine, folder, master, recipeFor('mp4'));
    const { Menu } = await readByMediaInfo(mediaInfo, made.file);
    expect(Object.values((Menu?.['extra'] ?? {}) as object)).toEqual(TITLES);
    const { tracks } = readByMp4box(made.file).getInfo();
    expect(tracks.filter(({ type }) => type === 'audio').map(({ language }) => language)).toEqual(['deu', 'eng']);
    const matroska = await makeRendition(engine, folder, master, recipeFor('matroska'));
    const read = await readByMediaInfo(mediaInfo, matroska.file);
    expect(Object.values((read['Menu']?.['extra'] ?? {}) as object).join()).toContain(TITLES[1]);
    expect(read['Video']).toMatchObject({ TimeCode_FirstFrame: '09:59:58:00' });
  });
});

describe('what a file tells of itself', () => {
  const TOLD = {
    ...{ title: 'Die Mühle; bei = Nacht', artist: 'The hill observatory', album: 'Autumn', genre: 'Talk' },
    ...{
      date: '2026-10-03',
      copyright: '© The hill observatory',
      description: 'What is seen',
      comment: 'For all “to use”',
    },
  };

  it.each(CONTAINERS)(
    'goes into %s as far as that has a place for it, and no more than was foreseen',
    async (container) => {
      const { holds } = CONTAINER[container];
      const wanted = Object.fromEntries(Object.entries(TOLD).filter(([tag]) => holds.tags.includes(tag as Tag)));
      const made = await makeRendition(engine, folder, bare, recipeFor(container, { file: { metadata: TOLD } }));
      expect(FAILED(made.checks)).toEqual([]);
      expect(made.checks.filter(({ name }) => name.startsWith('The file tells')).map(({ found }) => found)).toEqual(
        Object.values(wanted),
      );
      const silent = await makeRendition(engine, folder, bare, recipeFor(container));
      const taken = statSync(made.file).size - statSync(silent.file).size;
      const foreseen = holds.bytesOf(made.plan.labels!);
      expect(taken).toBeLessThanOrEqual(foreseen);
      expect(foreseen - taken).toBeLessThanOrEqual(200);
      // As a library of others reads it: mediainfo.js.
      const { General } = await readByMediaInfo(mediaInfo, made.file);
      // WAV and AIFF name no alphabet, and it takes theirs for Latin-1.
      const asRead = (text: string) =>
        ['wav', 'aiff'].includes(container) ? Buffer.from(text, 'utf8').toString('latin1') : text;
      expect(General?.['Title'] ?? General?.['Track']).toBe(asRead(TOLD.title));
      expect(JSON.stringify(General)).toContain(asRead(TOLD.copyright));
    },
  );

  it('is what the master tells where that is kept', async () => {
    const made = await makeRendition(engine, folder, master, recipeFor('mp4', { file: { metadata: 'keep' } }));
    expect(FAILED(made.checks)).toEqual([]);
    expect(listed(made.file).format.tags).toMatchObject({ title: 'Not for strangers' });
    const recipe = { container: 'mov', video: { codec: 'copy' }, audio: { codec: 'copy' }, file: { metadata: 'keep' } };
    const copied = await makeRendition(engine, folder, master, recipe);
    expect(FAILED(copied.checks)).toEqual([]);
    expect(listed(copied.file).format.tags).toMatchObject({ title: 'Not for strangers' });
  });
});

describe('captions that are text', () => {
  let captioned = '';
  const TEXTS = ['Guten Tag', 'Das Licht geht an; und die Mühle dreht sich.', 'Ende'];

  beforeAll(() => {
    const stamp = (seconds: number) =>
      `00:00:0${Math.floor(seconds)},${String(Math.round((seconds % 1) * 1000)).padStart(3, '0')}`;
    const cues = TEXTS.map((text, at) => `${at + 1}\n${stamp(at * 1.2 + 0.1)} --> ${stamp(at * 1.2 + 1)}\n${text}\n`);
    const inside = path.join(folder, 'inside.srt');
    writeFileSync(inside, cues.join('\n'));
    // Nothing that people read is so heavy: it must not push a file over its cap.
    const heavy = path.join(folder, 'heavy.srt');
    writeFileSync(heavy, `1\n00:00:00,500 --> 00:00:01,500\n<i>${'much to read '.repeat(200)}</i>\n`);
    captioned = path.join(folder, 'talk.mkv');
    draw(captioned, [
      ...['-i', master, '-i', inside, '-i', heavy, '-map', '0:v', '-map', '0:a', '-map', '1', '-map', '2'],
      ...['-c', 'copy', '-c:s', 'subrip', '-metadata:s:s:0', 'language=ger'],
    ]);
  });

  const textOf = (file: string, number: number) =>
    execFileSync('ffmpeg', ['-v', 'error', '-i', file, '-map', `0:s:${number}`, '-f', 'webvtt', '-'], {
      encoding: 'utf8',
    });

  const EMBED = { file: { captions: 'embed' } };

  it.each(['mp4', 'mov', 'matroska', 'webm'] as const)('go into %s, each a track of its own', async (container) => {
    const made = await makeRendition(engine, folder, captioned, recipeFor(container, EMBED));
    expect(FAILED(made.checks)).toEqual([]);
    expect(made.checks.find(({ name }) => name === 'Captions')?.found).toBe('ger, no language');
    const read = textOf(made.file, 0);
    for (const text of TEXTS) expect(read).toContain(text);
    // The picture begins a little after its master, and in some containers again.
    expect(read).toMatch(/00:01\.(2[78]\d|300) --> 00:02\.(1[78]\d|200)/);
    expect(textOf(made.file, 1)).toContain('much to read');
  });

  it('are cut to a portion, and stay where groups are joined under a cap', async () => {
    const bytes = 34_000;
    const video = { codec: 'h264', effort: 'fast', rate: { mode: 'size', bytes } };
    const portion = { inFrame: 30, outFrame: 84 };
    const made = await makeRendition(engine, folder, captioned, { video, audio: null, ...EMBED }, portion);
    expect(FAILED(made.checks)).toEqual([]);
    expect(statSync(made.file).size).toBeLessThanOrEqual(bytes);
    expect(textOf(made.file, 0)).not.toContain(TEXTS[0]);
    expect(textOf(made.file, 0)).toMatch(/00:00\.\d{3} --> 00:00\.9[78]\d\n/);
  });

  it('go along where the picture is copied', async () => {
    const recipe = { container: 'mp4', video: { codec: 'copy' }, audio: { codec: 'copy' }, ...EMBED };
    const made = await makeRendition(engine, folder, captioned, recipe);
    expect(FAILED(made.checks)).toEqual([]);
    expect(textOf(made.file, 0)).toContain(TEXTS[2]);
  });

  it('lie beside the file and not in it where nothing else is said', async () => {
    const made = await makeRendition(engine, folder, captioned, recipeFor('mp4'));
    expect(listed(made.file).streams.some(({ codec_type: kind }) => kind === 'subtitle')).toBe(false);
  });
});
