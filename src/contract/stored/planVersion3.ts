import { PLAN_VERSION, type EncodePlan, type PictureStream, type SoundStream } from '../../core/plan/encodePlan.ts';

/** A sound of version 3 was made of one track. */
export type SoundVersion3 = Omit<SoundStream, 'from'> & { readonly from: { readonly streamIndex: number } };

/** A plan as versions 0.4 stored it. */
export type PlanVersion3 = Omit<EncodePlan, 'version' | 'streams'> & {
  readonly version: 3;
  readonly streams: readonly (PictureStream | SoundVersion3)[];
};

/** The same plan, with every sound of one track. */
export function upgradePlan3({ streams, ...rest }: PlanVersion3): EncodePlan {
  return {
    ...rest,
    version: PLAN_VERSION,
    streams: streams.map((stream) => (stream.kind === 'sound' ? { ...stream, from: [stream.from] } : stream)),
  };
}
