import type { LightLevels } from '../../core/programme/facts.ts';

/** How an encoder wants to be told of light. */
export interface LightWords {
  /** Its words for the mastering display and for the content. */
  readonly display: string;
  readonly content: string;
  /** A coordinate of CIE 1931, and a brightness in cd/m². */
  readonly place: (value: number) => string;
  readonly brightness: (value: number) => string;
}

/** Settings of an encoder that say how bright a picture gets, as far as it is told. */
export function lightArguments(light: LightLevels, { display, content, place, brightness }: LightWords): string[] {
  const { masteringColour, masteringLeast, masteringMost, contentMost, frameAverageMost } = light;
  const at = ([x, y]: readonly [number, number]) => `(${place(x)},${place(y)})`;
  return [
    ...(masteringColour && masteringLeast !== null && masteringMost !== null
      ? [
          `${display}=G${at(masteringColour.green)}B${at(masteringColour.blue)}R${at(masteringColour.red)}WP${at(masteringColour.white)}L(${brightness(masteringMost)},${brightness(masteringLeast)})`,
        ]
      : []),
    ...(contentMost === null ? [] : [`${content}=${contentMost},${frameAverageMost ?? 0}`]),
  ];
}
