import { displaySize } from '../geometry/frameSize.ts';
import { turnedAspect } from '../geometry/framing.ts';
import { padOf } from '../picture/chain.ts';
import { isEncoded, pictureOf } from '../plan/encodePlan.ts';
import type { AdviseOnSetting } from './adviseOnSetting.ts';

/** Beyond rounding to even, and beyond what anyone sees. */
const ENLARGED_FROM = 1.05;

/** A picture that is larger than its master shows no more, and takes more bytes for it. */
export const enlarged: AdviseOnSetting = ({ facts, recipe, plan }) => {
  const picture = pictureOf(plan);
  if (!picture || !isEncoded(picture) || !facts.video || picture.out.pixelAspect) return null;
  const inside = padOf(picture.chain)?.inside ?? picture.out.size;
  const own = displaySize(picture.comparedAt, turnedAspect(facts.video.pixelAspect, recipe.picture.rotate));
  const times = Math.max(inside.width / own.width, inside.height / Math.max(own.height, picture.comparedAt.height));
  if (times < ENLARGED_FROM) return null;
  const { height } = picture.out.size;
  const lines = 2 * Math.floor(height / times / 2);
  return {
    code: 'picture-enlarged',
    severity: 'note',
    field: 'picture.fit',
    message: `The picture is made ${times.toFixed(1)} times as large as it is; that shows nothing more and takes more bytes.`,
    remedy: 'In its own size every player enlarges it by itself; where a receiver wants this very size it stays.',
    fix: { kind: 'fit', label: `Take ${lines} lines`, height: lines },
  };
};
