import type { Check } from '../../contract/views.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { portionClock } from '../../core/timing/frameClock.ts';
import { colourDistance, meanColour } from '../../core/quality/meanColour.ts';
import type { PicturePath } from '../../core/plan/encodePlan.ts';
import type { Sampling } from '../../core/picture/scale.ts';
import { masterRequest, preparedRequest } from '../stills/stills.ts';
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
export async function checkColour(request: CheckRequest, picture: PicturePath, found: ProgrammeFacts): Promise<Check> {
  const asTagged = masterRequest(request.result, found, request.clock, 0, SAMPLE_SIZE).sampling;
  const own = await distanceAs(request, picture, found, asTagged);
  const name = 'Colour of the pixels by their tags';
  const foundText = `${own.toFixed(1)} away at most`;
  const expected = `within ${TOLERANCE} of 255 of the master`;
  if (own <= TOLERANCE) return { name, ok: true, expected, found: foundText };
  const others: number[] = [];
  for (const reading of otherReadings(asTagged)) others.push(await distanceAs(request, picture, found, reading));
  const nearest = Math.min(...others);
  return {
    name,
    ok: own < nearest,
    expected: `${expected}, or nearer than any other reading of it`,
    found: `${foundText}, read otherwise ${nearest.toFixed(1)}`,
  };
}

/** The largest distance of any sampled frame when the result is read in a given way. */
async function distanceAs(
  request: CheckRequest,
  picture: PicturePath,
  found: ProgrammeFacts,
  reading: Sampling,
): Promise<number> {
  const ofPortion = portionClock(request.clock, picture.from.inFrame);
  const distances = SAMPLES.map(async (share) => {
    const frame = Math.min(picture.out.frameCount - 1, Math.floor(picture.out.frameCount * share));
    const ofMaster = preparedRequest(request.source, request.facts, request.clock, picture, frame, SAMPLE_SIZE);
    const ofResult = { ...masterRequest(request.result, found, ofPortion, frame, SAMPLE_SIZE), sampling: reading };
    const master = await request.engine.rawFrame(ofMaster, request.signal);
    const result = await request.engine.rawFrame(ofResult, request.signal);
    return colourDistance(meanColour(master), meanColour(result));
  });
  return Math.max(...(await Promise.all(distances)));
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
