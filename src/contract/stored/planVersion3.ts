import type { EncodePlan, PictureStream, SoundStream } from '../../core/plan/encodePlan.ts';
import type { PlanVersion4 } from './planVersion4.ts';

/** A sound of version 3 was made of one track. */
export type SoundVersion3 = Omit<SoundStream, 'from'> & { readonly from: { readonly streamIndex: number } };

/** A plan as versions 0.4 stored it. */
export type PlanVersion3 = Omit<EncodePlan, 'version' | 'streams'> & {
  readonly version: 3;
  readonly streams: readonly (PictureStream | SoundVersion3)[];
};

/** The same plan, with every sound of one track. */
export function upgradePlan3({ streams, ...rest }: PlanVersion3): PlanVersion4 {
  return {
    ...rest,
    version: 4,
    streams: streams.map((stream) => (stream.kind === 'sound' ? { ...stream, from: [stream.from] } : stream)),
  };
}
