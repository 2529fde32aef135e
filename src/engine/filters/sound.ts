import type { SoundStep } from '../../core/sound/steps.ts';
import { CHANNEL_COUNT } from '../../core/sound/definition.ts';

/** What a step asks of the engine: filters on the way, and options of the output. */
interface Rendered {
  readonly filters: readonly string[];
  readonly options: readonly string[];
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
    options: ['-ar', String(sampleRate)],
  }),
  last: ({ samples }) => ({ filters: ['apad', `atrim=end_sample=${samples}`], options: [] }),
  // As an option the engine mixes and converts in one go, which rounds once.
  mix: ({ channels }) => ({ filters: [], options: ['-ac', String(CHANNEL_COUNT[channels])] }),
};

/** Arguments that put sound through a chain, in its order. */
export function soundChain(chain: readonly SoundStep[]): string[] {
  // The list above gives each kind the renderer of its own.
  const rendered = chain.map((step) => (RENDERERS[step.step] as (step: SoundStep) => Rendered)(step));
  return ['-af', rendered.flatMap(({ filters }) => filters).join(','), ...rendered.flatMap(({ options }) => options)];
}
