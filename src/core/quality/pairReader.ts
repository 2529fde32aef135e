import { createBandingCounter, NOT_LOOKED, type Banding } from './banding.ts';
import type { FrameQuality } from './frameQuality.ts';
import { createPictureSums } from './pictureSums.ts';
import { bytesOfPicture, bytesOfSample, samplesOf, type PairShape } from './samples.ts';
import { createSsim, roomForSsim } from './ssim.ts';
import type { LumaChroma } from '../picture/lumaChroma.ts';
import type { PairMeans } from './tint.ts';
import { createWeigher } from './xpsnr.ts';

/** What is found out of the bare samples of two pictures. */
export interface PairMeasures extends Required<FrameQuality> {
  readonly means: PairMeans;
  readonly banding: Banding;
}

/** Measures pictures whose bytes come in pieces: those of all results in turn, and their master's after them. */
export interface PairReader {
  /** Where the next bytes go: what is missing of the picture that comes in. */
  next(): Uint8Array;
  /** So many were put there. */
  took(count: number): void;
  /** What was found: of each result one entry a picture. A master that did not come is not measured. */
  finish(): readonly (readonly PairMeasures[])[];
}

/** Masters that are looked back at, and the one that is shown. */
const MASTERS = 3;

/** Steps in a gradient stay for longer than a frame: one in so many is looked at. */
const LOOKED_AT = 4;

/** Planes begin where eight samples can be read at once. */
const ALIGNED = 16;

/**
 * Pictures are read to where they are measured, all of one moment once their master is there.
 *
 * @param results - How many are held against it.
 */
export function createPairReader(shape: PairShape, results: number): PairReader {
  const size = bytesOfPicture(shape);
  const sampleBytes = bytesOfSample(shape);
  const { luma, chroma } = samplesOf(shape);
  const room = Math.ceil(size / ALIGNED) * ALIGNED;
  const sums = createPictureSums(room * (results + MASTERS) + roomForSsim(shape), sampleBytes);
  const memory = new Uint8Array(sums.memory);
  const weigh = createWeigher(shape, sums);
  const likenessOf = createSsim(shape, sums, room * (results + MASTERS));
  const countBanding = createBandingCounter(shape, sums);
  /** The results first, then the masters in a ring. */
  const resultPlaces = Array.from({ length: results }, (_, index) => room * index);
  const measured: PairMeasures[][] = resultPlaces.map(() => []);
  let filled = 0;
  let [moment, come] = [0, 0];

  const placeOf = (at: number) => room * (results + (at % MASTERS));
  const meansOf = (place: number, levels: number): LumaChroma => {
    const mean = (total: number, count: number) => total / count / 2 ** (shape.bitDepth - 8);
    const colour = (at: number) => mean(sums.total(place + sampleBytes * at, chroma), chroma);
    return { y: mean(levels, luma), cb: colour(luma), cr: colour(luma + chroma) };
  };
  const incomingPlace = () => resultPlaces[come] ?? placeOf(moment);
  /** Squared differences of both planes of colour, added up: they lie below each other. */
  const coloursApart = (master: number, result: number) => {
    const [at, across] = [sampleBytes * luma, Math.ceil(shape.width / 2)];
    return sums.squares(master + at, result + at, across, across, (2 * chroma) / across);
  };
  const measure = () => {
    const place = placeOf(moment);
    const shown = {
      master: place,
      before: moment > 0 ? placeOf(moment - 1) : null,
      beforeThat: moment > 1 ? placeOf(moment - 2) : null,
    };
    const weighed = weigh(shown, resultPlaces);
    const banding = moment % LOOKED_AT === 0 ? countBanding(place, resultPlaces) : null;
    const master = meansOf(place, weighed.levels);
    resultPlaces.forEach((result, index) => {
      const { levels, squares, weighted } = weighed.results[index]!;
      measured[index]!.push({
        ...likenessOf(place, result),
        mseLuma: squares / luma,
        mseAll: (squares + coloursApart(place, result)) / (luma + 2 * chroma),
        mseWeighted: weighted / luma,
        means: { master, result: meansOf(result, levels) },
        banding: banding?.[index] ?? NOT_LOOKED,
      });
    });
  };
  const finishPicture = () => {
    const isMaster = come === results;
    come = isMaster ? 0 : come + 1;
    if (!isMaster) return;
    measure();
    moment += 1;
  };

  return {
    next: () => memory.subarray(incomingPlace() + filled, incomingPlace() + size),
    took: (count) => {
      filled += count;
      if (filled < size) return;
      filled = 0;
      finishPicture();
    },
    finish: () => measured,
  };
}
