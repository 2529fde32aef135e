import type { EncodePicture, EncodePlan, EncodeSound, PictureRate, PictureStream } from '../../core/plan/encodePlan.ts';
import { AS_ENCODER_LIKES } from '../../core/video/fine.ts';
import type { PlanVersion3, SoundVersion3 } from './planVersion3.ts';

type Unbuffered<Rate> = Rate extends PictureRate ? Omit<Rate, 'buffer'> : never;

/** A rate of version 2: none was held down over a buffer, and none was steady. */
export type RateVersion2 = Unbuffered<Exclude<PictureRate, { readonly kind: 'constant' }>>;

export type PictureVersion2 = Omit<PictureStream, 'do'> & {
  readonly do:
    | Extract<PictureStream['do'], { readonly kind: 'copy' }>
    | (Omit<EncodePicture, 'rate' | 'fine'> & { readonly rate: RateVersion2 });
};

export type SoundVersion2 = Omit<SoundVersion3, 'do'> & {
  readonly do: Extract<SoundVersion3['do'], { readonly kind: 'copy' }> | Omit<EncodeSound, 'bitDepth'>;
};

/** A plan as versions 0.3 stored it. */
export type PlanVersion2 = Omit<EncodePlan, 'version' | 'streams'> & {
  readonly version: 2;
  readonly streams: readonly (PictureVersion2 | SoundVersion2)[];
};

/** The same plan, with nothing held down and every sound at a rate. */
export function upgradePlan2({ streams, ...rest }: PlanVersion2): PlanVersion3 {
  return { ...rest, version: 3, streams: streams.map(upgradeStream) };
}

function upgradeStream(stream: PictureVersion2 | SoundVersion2): PlanVersion3['streams'][number] {
  if (stream.kind === 'sound') {
    return { ...stream, do: stream.do.kind === 'copy' ? stream.do : { ...stream.do, bitDepth: null } };
  }
  if (stream.do.kind === 'copy') return { ...stream, do: stream.do };
  return { ...stream, do: { ...stream.do, rate: upgradeRate(stream.do.rate), fine: AS_ENCODER_LIKES } };
}

function upgradeRate(rate: RateVersion2): PictureRate {
  return rate.kind === 'fill' ? rate : { ...rate, buffer: null };
}
