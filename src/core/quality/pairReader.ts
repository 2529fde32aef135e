import { createBandingCounter, NOT_LOOKED, type Banding } from './banding.ts';
import { createPictureSums } from './pictureSums.ts';
import { bytesOfPicture, bytesOfSample, samplesOf, type PairShape } from './samples.ts';
import type { PairMeans, PlaneMeans } from './tint.ts';
import { createWeigher } from './xpsnr.ts';

/** What is found out of the bare samples of two pictures. */
export interface PairMeasures {
  /** Mean squared error of luma, weighted by what the eye sees. */
  readonly mseWeighted: number;
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
  const sums = createPictureSums(room * (results + MASTERS), sampleBytes);
  const memory = new Uint8Array(sums.memory);
  const weigher = createWeigher(shape, sums);
  const countBanding = createBandingCounter(shape, sums);
  /** The results first, then the masters in a ring. */
  const resultPlaces = Array.from({ length: results }, (_, index) => room * index);
  const measured: PairMeasures[][] = resultPlaces.map(() => []);
  let filled = 0;
  let [moment, come] = [0, 0];

  const placeOf = (at: number) => room * (results + (at % MASTERS));
  const meansOf = (place: number): PlaneMeans => {
    const mean = (at: number, count: number) => sums.total(at, count) / count / 2 ** (shape.bitDepth - 8);
    const [cb, cr] = [place + sampleBytes * luma, place + sampleBytes * (luma + chroma)];
    return { y: mean(place, luma), cb: mean(cb, chroma), cr: mean(cr, chroma) };
  };
  const incomingPlace = () => resultPlaces[come] ?? placeOf(moment);
  const measure = () => {
    const place = placeOf(moment);
    weigher.look({
      master: place,
      before: moment > 0 ? placeOf(moment - 1) : null,
      beforeThat: moment > 1 ? placeOf(moment - 2) : null,
    });
    const banding = moment % LOOKED_AT === 0 ? countBanding(place, resultPlaces) : null;
    const master = meansOf(place);
    resultPlaces.forEach((result, index) => {
      const means = { master, result: meansOf(result) };
      measured[index]!.push({ mseWeighted: weigher.weigh(result), means, banding: banding?.[index] ?? NOT_LOOKED });
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
