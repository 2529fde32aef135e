import type { Container } from '../../core/container/names.ts';
import type { PictureFacts } from '../../core/plan/encodePlan.ts';
import { OWN_TICKS } from '../filters/stamp.ts';
import { MUXERS } from '../muxers/muxers.ts';

/** Options that keep the stamps of frames through the encoder. */
export function stampedOutput(out: PictureFacts, container: Container): string[] {
  const { constantRate, frameRate } = out;
  const timeBase = constantRate ? `${frameRate.den}:${frameRate.num}` : `1:${OWN_TICKS}`;
  return ['-fps_mode', 'passthrough', '-enc_time_base', timeBase, ...heldLastFrame(out, container)];
}

/** Option that keeps the last frame of a variable rate as long as it was; none at a constant rate. */
export function heldLastFrame({ constantRate, frameCount, lastFrame }: PictureFacts, container: Container): string[] {
  if (constantRate) return [];
  const ticks = MUXERS[container].stampsPerSecond ?? OWN_TICKS;
  const [last, end] = [lastFrame.atSeconds, lastFrame.endSeconds].map((seconds) => Math.round(seconds * ticks));
  // Encoders give no durations, and the container then takes the last frame for as long as the one before. The last
  // packet may hold an earlier frame; it must not end later.
  const duration = `if(gte(PTS\\,${last})+eq(N\\,${frameCount - 1})\\,${end}-max(PTS\\,${last})\\,DURATION)`;
  return ['-bsf:v', `setts=pts=PTS:dts=DTS:duration=${duration}`];
}

/** Options that write the colour into the stream as well as on its frames. */
export function colourTags({ colour, range }: PictureFacts): string[] {
  return [
    ...['-color_range', range === 'full' ? 'pc' : 'tv', '-color_primaries', colour.primaries],
    ...['-color_trc', colour.transfer, '-colorspace', colour.matrix],
  ];
}
