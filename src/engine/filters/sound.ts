import type { Gain } from '../../core/sound/loudness.ts';
import type { SoundStep } from '../../core/sound/steps.ts';
import { LAYOUT_CHANNELS, layoutOf, type Layout } from '../../core/sound/definition.ts';

/** Says at the end how loud what came by was (ITU-R BS.1770, EBU R 128). */
export const METER = 'ebur128=peak=true:framelog=verbose';

/** Peaks between samples are seen at four times the usual rate (ITU-R BS.1770, annex 2). */
const OVERSAMPLED = 192_000;

/** Channels in the order in which their tracks lie: ITU-R BS.775 for 5.1, SMPTE ST 428-12 for 7.1 (the latter from memory). */
const JOINED: { readonly [Name in Layout]: readonly string[] } = {
  mono: ['FC'],
  stereo: ['FL', 'FR'],
  '5.1': ['FL', 'FR', 'FC', 'LFE', 'BL', 'BR'],
  '7.1': ['FL', 'FR', 'FC', 'LFE', 'SL', 'SR', 'BL', 'BR'],
};

/** Makes one sound of as many sounds of one channel each as its layout has. */
export function joinFilter(channels: Layout): string {
  const map = JOINED[channels].map((channel, index) => `${index}.0-${channel}`).join('|');
  return `join=inputs=${LAYOUT_CHANNELS[channels]}:channel_layout=${channels}:map=${map}`;
}

/** What a step asks of the engine: filters on the way, and options of the output with their values. */
interface Rendered {
  readonly filters: readonly string[];
  readonly options: readonly (readonly [name: string, value: string])[];
}

const inChannels = (channels: Layout) => `aformat=channel_layouts=${channels}`;

/** Filters that turn a sound up or down, and hold its peaks under a limit where it has one. */
function gainFilters({ db, limitDbtp }: Gain, sampleRate: number): string[] {
  const turned = `volume=${db.toFixed(3)}dB`;
  if (limitDbtp === null) return [turned];
  const limiter = `alimiter=limit=${(10 ** (limitDbtp / 20)).toFixed(6)}:level=0:latency=1`;
  return [turned, `aresample=${OVERSAMPLED}`, limiter, `aresample=${sampleRate}`];
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
  join: ({ channels }) => ({ filters: [joinFilter(channels)], options: [] }),
  level: ({ channels, sampleRate, gain }) => ({
    filters: [inChannels(channels), ...(gain ? gainFilters(gain, sampleRate) : [METER])],
    options: [],
  }),
  turned: ({ channels, sampleRate, gain }) => ({
    filters: [inChannels(channels), ...gainFilters(gain, sampleRate)],
    options: [],
  }),
  last: ({ samples }) => ({ filters: ['apad', `atrim=end_sample=${samples}`], options: [] }),
  fade: ({ inSamples, outSamples, samples }) => ({
    filters: [
      ...(inSamples > 0 ? [`afade=t=in:ss=0:ns=${inSamples}`] : []),
      ...(outSamples > 0 ? [`afade=t=out:ss=${samples - outSamples}:ns=${outSamples}`] : []),
    ],
    options: [],
  }),
  mix: ({ channels }) =>
    LAYOUT_CHANNELS[channels] > 2
      ? // By its name: surround channels beside the listener or behind are one to players, but not to encoders.
        { filters: [inChannels(channels)], options: [] }
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
  const graph = chain.some(({ step }) => step === 'join') ? joinGraph : mixGraph;
  return [
    '-filter_complex',
    graph(streamIndexes, chain, `together${number}`),
    '-map',
    `[together${number}]`,
    ...ofOutput,
  ];
}

/**
 * The beginning of a graph that makes one sound of several: each through some filters, and then all of them in a row.
 *
 * @param streams - As the graph calls them.
 * @param name - Of the labels between.
 */
function gather(streams: readonly string[], each: readonly string[], name: string): string {
  const labels = streams.map((_, index) => `[${name}.${index}]`);
  return `${streams.map((stream, index) => `[${stream}]${each.join(',')}${labels[index]};`).join('')}${labels.join('')}`;
}

/** Tracks of the first input one by one through some filters, and then as one through others. */
function manyToOne(
  streamIndexes: readonly number[],
  each: readonly string[],
  all: readonly string[],
  out: string,
): string {
  const streams = streamIndexes.map((stream) => `0:${stream}`);
  return `${gather(streams, each, out)}${all.join(',')}[${out}]`;
}

/**
 * The beginning of a graph: what is heard as a programme's sound.
 *
 * @param streams - One track, or those that are the channels of one sound, as the graph calls them.
 * @param each - What is done to each of them first.
 */
export function heardSound(streams: readonly string[], each: readonly string[]): string {
  const layout = layoutOf(streams.length);
  if (streams.length === 1 || !layout) return `[${streams[0]}]${each.join(',')}`;
  return `${gather(streams, each, 'channel')}${joinFilter(layout)}`;
}

const filtersOf = (steps: readonly SoundStep[]) => steps.flatMap((step) => render(step).filters);

/**
 * Tracks at their full strength added up, so that stems give back the sound they came from; a limiter that delays
 * nothing holds what would clip.
 */
function mixGraph(streamIndexes: readonly number[], chain: readonly SoundStep[], out: string): string {
  // Each has to begin, run and lie alike before all are added; the rest is done to the sum.
  const isBefore = ({ step }: SoundStep) => step === 'begin' || step === 'resample';
  const after = chain.filter((one) => !isBefore(one) && one.step !== 'mix');
  const layout = chain.flatMap((step) => (step.step === 'mix' ? [inChannels(step.channels)] : []));
  const before = [...filtersOf(chain.filter(isBefore)), ...layout];
  const added = [`amix=inputs=${streamIndexes.length}:normalize=0`, 'alimiter=limit=0.98:level=0:latency=1'];
  return manyToOne(streamIndexes, before, [...added, ...filtersOf(after)], out);
}

/** What comes before the joining is done to each track; one that ends early is silent until all have ended. */
function joinGraph(streamIndexes: readonly number[], chain: readonly SoundStep[], out: string): string {
  const at = chain.findIndex(({ step }) => step === 'join');
  const before = [...filtersOf(chain.slice(0, at)), 'apad'];
  return manyToOne(streamIndexes, before, filtersOf(chain.slice(at)), out);
}
