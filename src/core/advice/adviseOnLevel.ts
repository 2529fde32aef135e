import { channelTracks } from '../programme/channelTracks.ts';
import type { ProgrammeFacts } from '../programme/facts.ts';
import { encodedSound, takesTracks, type EncodedSound } from '../recipe/recipe.ts';
import { losesSamples } from '../sound/codecs.ts';
import { firstGain, gainBy, LUFS_RANGE, USUAL_TRUE_PEAK, writeLevel } from '../sound/loudness.ts';
import type { Settings } from './adviseOnSetting.ts';
import type { Advisory, Fix } from './advisory.ts';

/** Peaks that are held down by more are heard to be (common practice, no source). */
const HEARD_LIMITING_DB = 6;

/** Sound that is turned up until its peaks reach the ceiling has them held down, which changes how it sounds. */
export function* adviseOnLevel({ facts, recipe, found }: Settings): Generator<Advisory> {
  const audio = encodedSound(recipe);
  const own = found?.loudness;
  if (!audio || !own || !takesHeard(audio, facts)) return;
  const isLossy = losesSamples(audio.codec);
  if (audio.loudness) {
    const { lufs, truePeakDbtp } = audio.loudness;
    const { db, limitDbtp } = firstGain({ ...own, lufs: own.integratedLufs }, audio.loudness, isLossy);
    const over = overLimit(own.truePeakDbtp + db, limitDbtp);
    if (over === null) return;
    const free = Math.max(LUFS_RANGE[0], downToTenth(lufs - over));
    yield peaksHeld('audio.loudness', `At ${writeLevel(lufs)} LUFS`, over, truePeakDbtp, {
      remedy: `At ${writeLevel(free)} LUFS every peak stays as it is.`,
      fix: { kind: 'loudness', label: `Take ${writeLevel(free)} LUFS`, level: { lufs: free, truePeakDbtp } },
    });
  } else {
    const { db, limitDbtp } = gainBy(audio.gainDb, isLossy);
    const over = overLimit(own.truePeakDbtp + db, limitDbtp);
    if (over === null) return;
    const free = Math.max(0, downToTenth(db - over));
    yield peaksHeld('audio.gainDb', `Turned up by ${db} dB`, over, USUAL_TRUE_PEAK, {
      remedy:
        free > 0 ? `By ${free} dB every peak stays as it is.` : 'Left as loud as it is, every peak stays as it is.',
      fix: { kind: 'gain', label: free > 0 ? `Turn it up by ${free} dB` : 'Leave it as loud as it is', db: free },
    });
  }
}

/** By how much the highest peak would go over a limit; null where it does not, or by too little for a word. */
function overLimit(peak: number, limit: number | null): number | null {
  const over = limit === null ? 0 : peak - limit;
  return over < 1 ? null : over;
}

const downToTenth = (value: number) => Math.floor(value * 10) / 10;

function peaksHeld(
  field: string,
  when: string,
  over: number,
  ceiling: number,
  better: { readonly remedy: string; readonly fix: Fix },
): Advisory {
  const isHeard = over > HEARD_LIMITING_DB;
  return {
    code: 'peaks-held',
    severity: isHeard ? 'caution' : 'note',
    field,
    message: `${when} the highest peaks would go ${over.toFixed(0)} dB over ${writeLevel(ceiling)} dBTP; they are held down${isHeard ? ', and that will be heard' : ''}.`,
    ...better,
  };
}

/** Whether a sound is what was listened to. */
function takesHeard(sound: EncodedSound, { audio }: ProgrammeFacts): boolean {
  if (audio.length === 0) return false;
  const channels = channelTracks(audio);
  return sound.joined === (channels !== null) && takesTracks(sound, channels ?? [0]);
}
