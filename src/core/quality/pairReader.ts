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

/** Measures pairs of pictures whose bytes come in pieces, result and master in turn. */
export interface PairReader {
  /** Where the next bytes go: what is missing of the picture that comes in. */
  next(): Uint8Array;
  /** So many were put there. */
  took(count: number): void;
  /** What was found, one entry a pair; what is left of a pair is not measured. */
  finish(): readonly PairMeasures[];
}

/** Masters that are looked back at, and the one that is shown. */
const MASTERS = 3;

/** Steps in a gradient stay for longer than a frame: one in so many is looked at. */
const LOOKED_AT = 4;

/** Planes begin where eight samples can be read at once. */
const ALIGNED = 16;

/** Pictures are read to where they are measured, and each pair is measured once it is there. */
export function createPairReader(shape: PairShape): PairReader {
  const size = bytesOfPicture(shape);
  const sampleBytes = bytesOfSample(shape);
  const { luma, chroma } = samplesOf(shape);
  const room = Math.ceil(size / ALIGNED) * ALIGNED;
  const sums = createPictureSums(room * (MASTERS + 1), sampleBytes);
  const memory = new Uint8Array(sums.memory);
  const weigh = createWeigher(shape, sums);
  const countBanding = createBandingCounter(shape, sums);
  const measured: PairMeasures[] = [];
  let filled = 0;
  let pictures = 0;

  /** The result first, then the masters in a ring. */
  const placeOf = (pair: number) => room * (1 + (pair % MASTERS));
  const meansOf = (place: number): PlaneMeans => {
    const mean = (at: number, count: number) => sums.total(at, count) / count / 2 ** (shape.bitDepth - 8);
    const [cb, cr] = [place + sampleBytes * luma, place + sampleBytes * (luma + chroma)];
    return { y: mean(place, luma), cb: mean(cb, chroma), cr: mean(cr, chroma) };
  };
  /** The result comes first, its master after it. */
  const incomingPlace = () => (pictures % 2 === 0 ? 0 : placeOf(Math.floor(pictures / 2)));
  const finishPicture = () => {
    const pair = Math.floor(pictures / 2);
    const isMaster = pictures % 2 === 1;
    pictures += 1;
    if (!isMaster) return;
    const master = placeOf(pair);
    const before = pair > 0 ? placeOf(pair - 1) : null;
    const beforeThat = pair > 1 ? placeOf(pair - 2) : null;
    const mseWeighted = weigh({ master, result: 0, before, beforeThat });
    const banding = pair % LOOKED_AT === 0 ? countBanding(master, 0) : NOT_LOOKED;
    const means = { master: meansOf(master), result: meansOf(0) };
    measured.push({ mseWeighted, means, banding });
  };

  return {
    next: () => memory.subarray(incomingPlace() + filled, incomingPlace() + size),
    took: (count) => {
      filled += count;
      if (filled < size) return;
      filled = 0;
      finishPicture();
    },
    finish: (): readonly PairMeasures[] => measured,
  };
}
