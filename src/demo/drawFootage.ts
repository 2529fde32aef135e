import { mkdir, open, readFile, rename, rm, stat, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { runProcess } from '../engine/process/runProcess.ts';
import { demonstrationFootage, type Footage } from './footage.ts';

/** Drawn with this release's graphs; a change draws them anew. */
const FONT = 'node_modules/@fontsource-variable/source-sans-3/files/source-sans-3-latin-wght-normal.woff2';

/**
 * Draws the demonstration's masters that are not there yet, two at a time.
 *
 * @param folder - A media folder.
 * @returns Their paths, in the order of the season.
 */
export async function drawFootage(ffmpeg: string, applicationFolder: string, folder: string): Promise<string[]> {
  await mkdir(folder, { recursive: true });
  const filters = await runProcess({ file: ffmpeg, arguments: ['-hide_banner', '-filters'] });
  const voice = {
    canSpeak: /\bflite\b/.test(filters.stdout.toString('utf8')),
    font: path.join(applicationFolder, FONT),
  };
  const waiting = demonstrationFootage(voice);
  const files = waiting.map((footage) => path.join(folder, footage.file));
  const worker = async () => {
    for (let next = waiting.shift(); next; next = waiting.shift()) await draw(ffmpeg, folder, next);
  };
  await Promise.all([worker(), worker()]);
  return files;
}

async function draw(ffmpeg: string, folder: string, footage: Footage): Promise<void> {
  const target = path.join(folder, footage.file);
  if (await stat(target).catch(() => null)) return;
  const unfinished = path.join(folder, `.${footage.file}.partial`);
  const chapters = path.join(folder, `.${footage.file}.chapters`);
  if (footage.chapters) await writeFile(chapters, writeChapters(footage.chapters));
  const result = await runProcess({
    file: ffmpeg,
    arguments: [
      ...['-hide_banner', '-nostdin', '-y', '-loglevel', 'error'],
      ...(footage.chapters ? ['-f', 'ffmetadata', '-i', `file:${chapters}`] : []),
      ...['-filter_complex', graphOf(footage), '-map', '[sound]'],
      ...(footage.hasEffects ? ['-map', '[effects]', ...EFFECTS_NAMES] : []),
      ...['-c:a', footage.file.endsWith('.mp4') ? 'aac' : 'pcm_s16le', '-ar', '48000'],
      ...(footage.rate ? pictureArguments(footage, footage.rate) : ['-f', 'wav']),
      `file:${unfinished}`,
    ],
  });
  await rm(chapters, { force: true });
  if (result.exitCode !== 0) {
    await rm(unfinished, { force: true });
    throw new Error(`${footage.file} could not be drawn: ${result.stderr}`);
  }
  if (footage.captions)
    await writeFile(path.join(folder, `${path.parse(footage.file).name}.srt`), writeCaptions(footage.captions));
  if (footage.isSpoilt) await spoil(unfinished);
  if (footage.isTurned) await turn(unfinished);
  await rename(unfinished, target);
}

const USUAL_ENCODING = [
  ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '14', '-g', '12', '-pix_fmt', 'yuv420p'],
  ...['-color_range', 'tv', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
];

const EFFECTS_NAMES = [
  ...['-metadata:s:a:0', 'handler_name=Programme', '-metadata:s:a:0', 'language=eng'],
  ...['-metadata:s:a:1', 'handler_name=Music and effects'],
];

/** Dissolves and loops leave crooked stamps; every frame is stamped afresh by its number. */
function graphOf({ graph, rate, keepsTimes }: Footage): string {
  if (!rate) return graph;
  const stamps = keepsTimes ? 'null' : `settb=${invert(rate).replace(':', '/')},setpts=N`;
  return `${graph};[drawn]${stamps}[picture]`;
}

function pictureArguments({ file, encoding, keepsTimes, timecode }: Footage, rate: string): string[] {
  return [
    ...['-map', '[picture]', ...(encoding ?? USUAL_ENCODING), '-fps_mode', 'passthrough'],
    ...(keepsTimes ? [] : ['-enc_time_base', invert(rate)]),
    ...(timecode ? ['-timecode', timecode] : []),
    ...['-f', file.endsWith('.mp4') ? 'mp4' : 'mov'],
  ];
}

/** A quarter turn clockwise, 16.16 and 2.30 fixed point (ISO/IEC 14496-12, track header matrix). */
const QUARTER_TURN = [0, 0x10000, 0, -0x10000, 0, 0, 0, 0, 0x40000000];

/** From the beginning of a version 0 track header to its matrix and its width. */
const MATRIX_OFFSET = 48;
const WIDTH_OFFSET = 84;

/** Turns the picture by its track header, as telephones do: the engine has no setting for it. */
async function turn(file: string): Promise<void> {
  const bytes = await readFile(file);
  for (let at = bytes.indexOf('tkhd'); at >= 0; at = bytes.indexOf('tkhd', at + 4)) {
    const box = at - 4;
    // A sound track has no width.
    if (bytes.readUInt32BE(box + WIDTH_OFFSET) === 0) continue;
    QUARTER_TURN.forEach((value, index) => bytes.writeInt32BE(value, box + MATRIX_OFFSET + index * 4));
  }
  await writeFile(file, bytes);
}

const SPOILT_BYTES = 120_000;

/** Bytes in the middle that no decoder can use. */
async function spoil(file: string): Promise<void> {
  const handle = await open(file, 'r+');
  try {
    const { size } = await handle.stat();
    await handle.write(Buffer.alloc(SPOILT_BYTES, 0x5a), 0, SPOILT_BYTES, Math.floor(size * 0.45));
  } finally {
    await handle.close();
  }
}

function writeChapters(chapters: NonNullable<Footage['chapters']>): string {
  const entries = chapters.map(
    ({ startSeconds, endSeconds, title }) =>
      `[CHAPTER]\nTIMEBASE=1/1000\nSTART=${startSeconds * 1000}\nEND=${endSeconds * 1000}\ntitle=${title}\n`,
  );
  return [';FFMETADATA1\ntitle=The Long Dusk\nartist=Hollowmere Planetarium\n', ...entries].join('');
}

/** SubRip (common practice): a number, the times, the text. */
function writeCaptions(captions: NonNullable<Footage['captions']>): string {
  const time = (seconds: number) => `${new Date(seconds * 1000).toISOString().slice(11, 23).replace('.', ',')}`;
  return captions
    .map(
      ({ startSeconds, endSeconds, text }, index) =>
        `${index + 1}\n${time(startSeconds)} --> ${time(endSeconds)}\n${text}\n`,
    )
    .join('\n');
}

/** A rate as the engine's time base. */
function invert(rate: string): string {
  return rate.split('/').reverse().join(':');
}
