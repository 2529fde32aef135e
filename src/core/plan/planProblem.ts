/** Why a recipe cannot be carried out on a programme; `field` names the recipe's key. */
export interface PlanProblem {
  readonly code:
    | 'no-picture'
    | 'no-sound'
    | 'nothing-left'
    | 'cap-below-floor'
    | 'encoder-missing'
    | 'hardware-missing'
    | 'hardware-holds-average'
    | 'portion-outside'
    | 'codec-not-in-container'
    | 'passes-not-held'
    | 'sample-rate-outside'
    | 'sound-rate-outside'
    | 'frame-too-small'
    | 'crop-too-large'
    | 'copy-cannot'
    | 'container-without-picture'
    | 'track-missing'
    | 'captions-are-pictures'
    | 'tracks-not-joined'
    | 'one-track'
    | 'channels-not-carried'
    | 'format-not-taken'
    | 'transparency-not-carried'
    | 'transparency-not-weighed'
    | 'setting-not-taken'
    | 'level-too-small'
    | 'buffer-not-held'
    | 'highest-below-average';
  readonly field: string;
  readonly message: string;
}
