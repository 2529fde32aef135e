import { buildPyramid, readColumns, type Pyramid } from '../../core/analysis/pyramid.ts';
import { shapeOf } from '../../core/geometry/frameSize.ts';
import { programmeClock } from '../../core/programme/programmeClock.ts';
import { frameOfProgramme, stripPicture } from '../hooks/api.ts';
import { timelineOf, type Timeline } from '../player/timeline.ts';
import { LANES, stripsHeight, type StripColours, type StripMarks, type StripsMessage } from './stripsMessages.ts';
import type { View } from './view.ts';

/** Pictures kept decoded; the least recently drawn go first. */
const KEPT_PICTURES = 400;

/** A frame that is only glimpsed while zooming is not asked for. */
const SETTLE_MS = 150;

/** Quietest level drawn, in dBFS and LUFS. */
const SOUND_FLOOR = -60;

interface Programme {
  readonly id: string;
  readonly hasPicture: boolean;
  readonly timeline: Timeline;
  readonly shape: number;
  readonly origin: string;
}

interface Drawn {
  readonly view: View;
  readonly width: number;
  readonly density: number;
  readonly colours: StripColours;
}

let canvas: OffscreenCanvas | null = null;
let programme: Programme | null = null;
let drawn: Drawn | null = null;
let lanes: {
  readonly busyness: Lane | null;
  readonly spent: Lane | null;
  readonly peaks: Lane | null;
  readonly momentary: Lane | null;
  readonly pictureInterval: number;
} | null = null;
let marks: StripMarks = { sceneChanges: [], black: [], silence: [] };
let isAsked = false;
let settled = 0;
const pictures = new Map<string, ImageBitmap | 'loading' | 'missing'>();

/** Values along the length, and how long each stands for. */
interface Lane {
  readonly pyramid: Pyramid;
  readonly secondsPerValue: number;
  readonly most: number;
}

self.onmessage = ({ data }: MessageEvent<StripsMessage>) => {
  if (data.type === 'canvas') canvas = data.canvas;
  else if (data.type === 'programme') programme = readProgramme(data);
  else if (data.type === 'strips') takeStrips(data);
  else {
    drawn = data;
    settled = performance.now() + SETTLE_MS;
    setTimeout(askToDraw, SETTLE_MS + 1);
  }
  askToDraw();
};

function readProgramme({
  programme: of,
  frameTimes,
  origin,
}: Extract<StripsMessage, { type: 'programme' }>): Programme {
  return {
    id: of.id,
    hasPicture: of.video !== null,
    timeline: timelineOf(of, programmeClock(of, frameTimes)),
    shape: of.video ? shapeOf(of, of.video.pixelAspect) : 1,
    origin,
  };
}

function takeStrips({ strips, marks: wanted }: Extract<StripsMessage, { type: 'strips' }>): void {
  const laneOf = (values: readonly number[] | null | undefined, seconds: number): Lane | null =>
    values && values.length > 0
      ? {
          pyramid: buildPyramid(values),
          secondsPerValue: seconds,
          most: values.reduce((high, value) => Math.max(high, value), 0),
        }
      : null;
  lanes = {
    busyness: laneOf(strips.busyness, strips.stepSeconds),
    spent: laneOf(strips.spent, strips.stepSeconds),
    peaks: laneOf(strips.sound?.peaks, strips.sound?.stepSeconds ?? 1),
    momentary: laneOf(strips.sound?.momentary, strips.sound?.stepSeconds ?? 1),
    pictureInterval: strips.pictureInterval,
  };
  marks = wanted;
}

/** However much changes between two frames of the screen, it is drawn once. */
function askToDraw(): void {
  if (isAsked) return;
  isAsked = true;
  requestAnimationFrame(() => {
    isAsked = false;
    draw();
  });
}

function draw(): void {
  if (!canvas || !drawn || !programme) return;
  const { width, density, colours } = drawn;
  const height = stripsHeight(programme.hasPicture);
  canvas.width = Math.round(width * density);
  canvas.height = Math.round(height * density);
  const context = canvas.getContext('2d');
  if (!context) return;
  context.scale(density, density);
  let top = 0;
  if (programme.hasPicture) {
    drawPictures(context, drawn, programme, top);
    top += LANES.pictures + LANES.gap;
  }
  ground(context, top, LANES.sound);
  if (lanes?.peaks) bars(context, lanes.peaks, top, LANES.sound, colours.sound, loudnessShare, 0.45);
  if (lanes?.momentary) bars(context, lanes.momentary, top, LANES.sound, colours.sound, loudnessShare, 1);
  shade(context, marks.silence, top, LANES.sound, colours.quiet);
  top += LANES.sound + LANES.gap;
  if (!programme.hasPicture) return;
  ground(context, top, LANES.busyness);
  if (lanes?.busyness)
    bars(context, lanes.busyness, top, LANES.busyness, colours.measured, rootShare(lanes.busyness), 1);
  shade(context, marks.black, top, LANES.busyness, colours.ink);
  drawCuts(context, top, LANES.busyness);
  top += LANES.busyness + LANES.gap;
  ground(context, top, LANES.spent);
  if (lanes?.spent) bars(context, lanes.spent, top, LANES.spent, colours.container, rootShare(lanes.spent), 1);
}

type Context = OffscreenCanvasRenderingContext2D;

function ground(context: Context, top: number, height: number): void {
  context.fillStyle = drawn?.colours.sunk ?? '';
  context.fillRect(0, top, drawn?.width ?? 0, height);
}

/** Decibels from the floor to full scale. */
function loudnessShare(level: number): number {
  return Math.max(0, (level - SOUND_FLOOR) / -SOUND_FLOOR);
}

/** Bits differ by factors of a hundred; the root keeps easy stretches visible. */
function rootShare(lane: Lane): (value: number) => number {
  return (value) => Math.sqrt(value / Math.max(1, lane.most));
}

function bars(
  context: Context,
  lane: Lane,
  top: number,
  height: number,
  colour: string,
  share: (value: number) => number,
  opacity: number,
): void {
  if (!drawn) return;
  const { view, width } = drawn;
  const columns = Math.round(width);
  const values = readColumns(
    lane.pyramid,
    view.from / lane.secondsPerValue,
    view.to / lane.secondsPerValue,
    columns,
    'most',
  );
  context.fillStyle = colour;
  context.globalAlpha = opacity;
  context.beginPath();
  for (let column = 0; column < columns; column += 1) {
    const size = Math.min(1, share(values[column]!)) * height;
    if (size > 0) context.rect(column, top + height - size, 1, size);
  }
  context.fill();
  context.globalAlpha = 1;
}

function shade(context: Context, stretches: StripMarks['black'], top: number, height: number, colour: string): void {
  if (!drawn) return;
  context.fillStyle = colour;
  context.globalAlpha = 0.55;
  for (const { inFrame, outFrame } of stretches) {
    const [left, right] = [xOf(inFrame), xOf(outFrame + 1)];
    if (right < 0 || left > drawn.width) continue;
    context.fillRect(left, top + height - 5, Math.max(1, right - left), 5);
  }
  context.globalAlpha = 1;
}

function drawCuts(context: Context, top: number, height: number): void {
  if (!drawn) return;
  context.fillStyle = drawn.colours.ink;
  let last = -Infinity;
  for (const frame of marks.sceneChanges) {
    const x = Math.round(xOf(frame));
    // Hundreds of cuts in one column are one line.
    if (x < 0 || x > drawn.width || x === last) continue;
    context.fillRect(x, top, 1, height / 3);
    last = x;
  }
}

function xOf(frame: number): number {
  return programme ? xAt(programme.timeline.clock.secondsOf(frame)) : 0;
}

function xAt(seconds: number): number {
  if (!drawn) return 0;
  return ((seconds - drawn.view.from) / (drawn.view.to - drawn.view.from)) * drawn.width;
}

/** A row of pictures, each of the moment at its left edge; a frame that is wide enough stands where it begins. */
function drawPictures(context: Context, { view, width, colours }: Drawn, of: Programme, top: number): void {
  const { clock, framesPerSecond } = of.timeline;
  const pictureWidth = Math.max(24, LANES.pictures * of.shape);
  // Anchored to the length, so that pictures move with the view instead of changing under it.
  const step = ((view.to - view.from) / width) * pictureWidth;
  context.fillStyle = colours.sunk;
  context.fillRect(0, top, width, LANES.pictures);
  let at = Math.floor(view.from / step) * step;
  while (at < view.to) {
    const frame = clock.frameAt(at);
    const [begins, ends] = [clock.secondsOf(frame), clock.secondsOf(frame + 1)];
    const isWide = ends - begins >= step;
    // Rounding must not find the same place again.
    const next = isWide ? ends : (Math.floor(at / step + 1e-6) + 1) * step;
    const x = isWide ? heldPlace(xAt(begins), xAt(ends), pictureWidth) : xAt(at);
    const picture = pictureOf(of, frame, step * framesPerSecond);
    if (picture) drawCut(context, picture, x, top, pictureWidth, xAt(next) - x - 1);
    at = next;
  }
}

/** Where a frame stands that is wider than its picture: where it begins, or as far right of that as keeps it in sight. */
function heldPlace(left: number, right: number, width: number): number {
  return Math.max(left, Math.min(0, right - width - 1));
}

/** As much of a picture as there is room for. */
function drawCut(context: Context, picture: ImageBitmap, x: number, top: number, width: number, room: number): void {
  const share = Math.min(1, room / width);
  if (share <= 0) return;
  const { width: whole, height } = picture;
  context.drawImage(picture, 0, 0, whole * share, height, x, top, width * share, LANES.pictures);
}

function pictureOf(of: Programme, frame: number, framesPerPicture: number): ImageBitmap | null {
  const interval = lanes?.pictureInterval ?? 0;
  const small = interval > 0 ? stripPicture(of.id, Math.floor(frame / interval)) : null;
  if (interval > 0 && framesPerPicture < interval && performance.now() >= settled) {
    const exact = load(of, frameOfProgramme(of.id, frame, 160));
    if (exact) return exact;
  } else if (interval > 0 && framesPerPicture < interval) {
    const known = pictures.get(frameOfProgramme(of.id, frame, 160));
    if (known instanceof ImageBitmap) return known;
  }
  return small === null ? null : load(of, small);
}

function load(of: Programme, address: string): ImageBitmap | null {
  const known = pictures.get(address);
  if (known instanceof ImageBitmap) {
    pictures.delete(address);
    pictures.set(address, known);
    return known;
  }
  if (known !== undefined) return null;
  pictures.set(address, 'loading');
  void fetch(new URL(address, of.origin))
    .then(async (answer) => pictures.set(address, answer.ok ? await createImageBitmap(await answer.blob()) : 'missing'))
    .catch(() => pictures.delete(address))
    .finally(() => {
      forgetOld();
      askToDraw();
    });
  return null;
}

function forgetOld(): void {
  for (const [address, picture] of pictures) {
    if (pictures.size <= KEPT_PICTURES) return;
    if (picture instanceof ImageBitmap) picture.close();
    pictures.delete(address);
  }
}
