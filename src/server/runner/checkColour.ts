import type { Check } from '../../contract/views.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { colourDistance, meanColour, type MeanColour } from '../../core/quality/meanColour.ts';
import type { PicturePath, PictureStream } from '../../core/plan/encodePlan.ts';
import { resultClock } from '../../core/plan/planPicture.ts';
import { markOf, unpadding } from '../../core/picture/chain.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import type { SizedStillRequest } from '../../engine/arguments/still.ts';
import { masterRequest, preparedRequest } from '../stills/stillRequests.ts';
import type { CheckRequest } from './checkRequest.ts';

/** Rounding and gentle coding stay within this many of 255 steps; a wrong matrix or range goes well beyond. */
const TOLERANCE = 4;

/** Frames whose colour is compared, as shares of the length. */
const SAMPLES = [0.15, 0.5, 0.85];

const SAMPLE_SIZE = { width: 64, height: 36 };

/**
 * Decodes result and master, each by its own tags, and compares what a viewer would see. Very coarse coding shifts
 * colours too, so beyond the tolerance the tags still hold when no other reading of the result comes nearer.
 *
 * @param found - The result's own facts.
 */
export async function checkColour(
  request: CheckRequest,
  picture: PictureStream,
  found: ProgrammeFacts,
): Promise<Check> {
  const asTagged = masterRequest(request.result, found, request.clock, 0, SAMPLE_SIZE).sampling;
  const masters = mastersFrames(request, picture);
  const pictures = await request.engine.rawFrames(
    [...masters, ...resultFrames(request, picture, found, asTagged)],
    request.signal,
  );
  const colours = pictures.map(meanColour);
  const ofMaster = colours.slice(0, masters.length);
  const own = furthest(ofMaster, colours.slice(masters.length));
  const name = 'Colour of the pixels by their tags';
  const foundText = `${own.toFixed(1)} away at most`;
  const expected = `within ${TOLERANCE} of 255 of the master`;
  if (own <= TOLERANCE) return { name, ok: true, expected, found: foundText };
  const distances: number[] = [];
  for (const reading of otherReadings(asTagged)) {
    const read = await request.engine.rawFrames(resultFrames(request, picture, found, reading), request.signal);
    distances.push(furthest(ofMaster, read.map(meanColour)));
  }
  const nearest = Math.min(...distances);
  return {
    name,
    ok: own < nearest,
    expected: `${expected}, or nearer than any other reading of it`,
    found: `${foundText}, read otherwise ${nearest.toFixed(1)}`,
  };
}

function sampledFrames({ out: { frameCount } }: PicturePath): number[] {
  return SAMPLES.map((share) => Math.min(frameCount - 1, Math.floor(frameCount * share)));
}

function mastersFrames(
  { source, facts, clock, workingFolder }: CheckRequest,
  picture: PicturePath,
): SizedStillRequest[] {
  return sampledFrames(picture).map((frame) => {
    const request = preparedRequest(source, facts, clock, picture, frame, SAMPLE_SIZE);
    return { ...marked(request, picture), workingFolder };
  });
}

/** A mark is none of the master's, and yet no wrong colour. */
function marked(request: SizedStillRequest, { chain, comparedAt }: PicturePath): SizedStillRequest {
  const mark = markOf(chain);
  if (!mark) return request;
  const { sampling } = request;
  return {
    ...request,
    chain: [...request.chain, { ...mark, picture: comparedAt, from: sampling }],
    sampling: { ...sampling, range: 'limited' },
  };
}

/** In a copy frames are found no better than in its master, whatever its container promises. */
function seekLike(copy: ProgrammeFacts, { video }: ProgrammeFacts): ProgrammeFacts {
  if (!copy.video || !video) return copy;
  const { seeksExactly, seekLeadSeconds } = video;
  return { ...copy, video: { ...copy.video, seeksExactly, seekLeadSeconds } };
}

/** @param reading - How the result's pixels are taken. */
function resultFrames(
  { result, clock, facts }: CheckRequest,
  picture: PictureStream,
  found: ProgrammeFacts,
  reading: Sampling,
): SizedStillRequest[] {
  const ofPortion = resultClock(picture, clock);
  const shown = picture.do.kind === 'copy' ? seekLike(found, facts) : found;
  return sampledFrames(picture).map((frame) => ({
    ...masterRequest(result, shown, ofPortion, frame, SAMPLE_SIZE),
    chain: unpadding(picture.chain),
    sampling: reading,
  }));
}

/** The largest distance between pictures of the same frames. */
function furthest(masters: readonly MeanColour[], results: readonly MeanColour[]): number {
  return Math.max(...masters.map((colour, index) => colourDistance(colour, results[index]!)));
}

/** The mistakes that happen: SD taken for HD or the reverse, and limited range taken for full or the reverse. */
function otherReadings({ matrix, range }: Sampling): Sampling[] {
  const otherMatrix = matrix === 'bt709' ? 'smpte170m' : 'bt709';
  const otherRange = range === 'full' ? 'limited' : 'full';
  return [
    { matrix: otherMatrix, range },
    { matrix, range: otherRange },
  ];
}
