import type { EncodedVideo } from '../../core/recipe/recipe.ts';

/** What every part of the sentence of fine settings is given. */
export interface FineVideoProps<Video extends EncodedVideo> {
  readonly video: Video;
  readonly change: (video: Video) => void;
  readonly problemOf: (field: string) => string | undefined;
}

/** What the encoder decides. */
export const BY_ITSELF = 'automatic';
