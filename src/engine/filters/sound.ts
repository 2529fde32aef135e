import type { SoundStep } from '../../core/sound/steps.ts';
import { LAYOUT_CHANNELS } from '../../core/sound/definition.ts';

/** Says at the end how loud what came by was (ITU-R BS.1770, EBU R 128). */
export const METER = 'ebur128=peak=true:framelog=verbose';

/** Peaks between samples are seen at four times the usual rate (ITU-R BS.1770, annex 2). */
const OVERSAMPLED = 192_000;

/** What a step asks of the engine: filters on the way, and options of the output with their values. */
interface Rendered {
  readonly filters: readonly string[];
  readonly options: readonly (readonly [name: string, value: string])[];
}

/** How each kind of step is asked of the engine. */
const RENDERERS: {
  readonly [Name in SoundStep['step']]: (step: Extract<SoundStep, { readonly step: Name }>) => Rendered;
} = {
  begin: ({ startSeconds }) => {
    const start = startSeconds.toFixed(9);
    return { filters: [`atrim=start=${start}`, `asetpts=PTS-${start}/TB`], options: [] };
  },
  resample: ({ sampleRate }) => ({
    filters: [`aresample=${sampleRate}:async=1:first_pts=0`],
    options: [['-ar', String(sampleRate)]],
  }),
  level: ({ channels, sampleRate, gain }) => {
    const mixed = `aformat=channel_layouts=${channels}`;
    if (!gain) return { filters: [mixed, METER], options: [] };
    const { db, limitDbtp } = gain;
    const limit = limitDbtp === null ? 1 : 10 ** (limitDbtp / 20);
    const limiter = `alimiter=limit=${limit.toFixed(6)}:level=0:latency=1`;
    const held = [`aresample=${OVERSAMPLED}`, limiter, `aresample=${sampleRate}`];
    return { filters: [mixed, `volume=${db.toFixed(3)}dB`, ...(limitDbtp === null ? [] : held)], options: [] };
  },
  last: ({ samples }) => ({ filters: ['apad', `atrim=end_sample=${samples}`], options: [] }),
  mix: ({ channels }) =>
    LAYOUT_CHANNELS[channels] > 2
      ? // By its name: surround channels beside the listener or behind are one to players, but not to encoders.
        { filters: [`aformat=channel_layouts=${channels}`], options: [] }
      : // As an option the engine mixes and converts in one go, which rounds once.
        { filters: [], options: [['-ac', String(LAYOUT_CHANNELS[channels])]] },
};

/** The list above gives each kind the renderer of its own. */
function render(step: SoundStep): Rendered {
  return (RENDERERS[step.step] as (step: SoundStep) => Rendered)(step);
}

/** Arguments that put the tracks of a sound through its chain, as the result's sound of a number. */
export function soundChain(streamIndexes: readonly number[], chain: readonly SoundStep[], number: number): string[] {
  const options = chain.flatMap((step) => render(step).options);
  const ofOutput = options.flatMap(([name, value]) => [`${name}:a:${number}`, value]);
  const [first, ...others] = streamIndexes;
  if (others.length === 0) {
    const filters = chain.flatMap((step) => render(step).filters);
    return ['-map', `0:${first}`, `-filter:a:${number}`, filters.join(','), ...ofOutput];
  }
  return ['-filter_complex', mixGraph(streamIndexes, chain, number), '-map', `[mixed${number}]`, ...ofOutput];
}

/**
 * Tracks at their full strength added up, so that stems give back the sound they came from; a limiter that delays
 * nothing holds what would clip.
 */
function mixGraph(streamIndexes: readonly number[], chain: readonly SoundStep[], number: number): string {
  const filtersOf = (steps: readonly SoundStep[]) => steps.flatMap((step) => render(step).filters);
  // Level and length are made once all are added; before that each has to begin, run and lie alike.
  const after = chain.filter(({ step }) => step === 'level' || step === 'last');
  const layout = chain.flatMap((step) => (step.step === 'mix' ? [`aformat=channel_layouts=${step.channels}`] : []));
  const before = [...filtersOf(chain.filter(({ step }) => step === 'begin' || step === 'resample')), ...layout];
  const label = (index: number) => `[track${number}.${index}]`;
  const tracks = streamIndexes.map((stream, index) => `[0:${stream}]${before.join(',')}${label(index)}`);
  const added = [`amix=inputs=${tracks.length}:normalize=0`, 'alimiter=limit=0.98:level=0:latency=1'];
  const together = [...added, ...filtersOf(after)].join(',');
  return [...tracks, `${streamIndexes.map((_, index) => label(index)).join('')}${together}[mixed${number}]`].join(';');
}
