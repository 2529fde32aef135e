import { channelTracks } from '../programme/channelTracks.ts';
import { LIFT_DB, LUFS_RANGE, USUAL_TRUE_PEAK, writeLevel } from '../sound/loudness.ts';
import type { Advise } from './advisory.ts';

/** Where open video hosts bring sound to (common practice), and how far off is worth a word. */
const WEB_LUFS = -14;
const FAR_LU = 6;

/** Mono at half the rate of stereo is enough (common practice, no source). */
const MONO_KBPS = 64;

/** No sound at all, in a file that has a track for it. */
export const adviseOnSilence: Advise = ({ facts, findings }) => {
  const { channels } = findings ?? {};
  if (!channels || facts.audio.length === 0) return null;
  if (channels.silent.length < channels.peaks.length) return null;
  return {
    code: 'sound-silent',
    severity: 'serious',
    message: 'The sound track is silent from beginning to end; sound is missing, or the wrong track comes first.',
    remedy: 'Check the export; without sound on purpose, order a rendition with no sound.',
  };
};

/** What lies apart by less is nobody's fault: packets are whole, and edits fade. */
const APART_SECONDS = 0.5;

/** Sound that is not there for the whole of the picture, or for longer. */
export const adviseOnSoundSpan: Advise = ({ facts }) => {
  const { video, durationSeconds } = facts;
  const track = facts.audio[0];
  if (!video || !track) return null;
  const head = track.startSeconds - video.startSeconds;
  const tail = video.startSeconds + durationSeconds - (track.startSeconds + track.durationSeconds);
  const said = (first: number, last: number) =>
    [
      first > APART_SECONDS ? `for ${first.toFixed(1)} s at the beginning` : '',
      last > APART_SECONDS ? `for ${last.toFixed(1)} s at the end` : '',
    ]
      .filter((part) => part !== '')
      .join(' and ');
  const [missing, beyond] = [said(head, tail), said(-head, -tail)];
  if (missing) {
    return {
      code: 'sound-missing',
      severity: 'caution',
      message: `There is a picture without sound ${missing}.`,
      remedy: 'Check the export; on purpose, there is nothing to do.',
    };
  }
  if (!beyond) return null;
  return {
    code: 'sound-beyond',
    severity: 'caution',
    message: `There is sound without a picture ${beyond}; renditions leave it out.`,
    remedy: 'If it belongs to the programme, export it again with the last picture held for so long.',
  };
};

/** One of two channels carries nothing: it is heard on one side only. */
export const adviseOnEmptyChannel: Advise = ({ findings }) => {
  const { channels } = findings ?? {};
  if (!channels || channels.peaks.length !== 2 || channels.silent.length !== 1) return null;
  const side = channels.silent[0] === 0 ? 'left' : 'right';
  return {
    code: 'channel-empty',
    severity: 'serious',
    message: `The ${side} channel is empty, so in headphones everything is heard on the other side.`,
    remedy: 'Check the export before it is sent.',
  };
};

/** The same sound twice. */
export const adviseOnIdenticalChannels: Advise = ({ findings }) => {
  if (!findings?.channels?.identical) return null;
  return {
    code: 'channels-identical',
    severity: 'note',
    message: 'Both channels carry the same sound; mono sounds alike at half the rate.',
    remedy: `The next rendition gets mono at ${MONO_KBPS} kb/s.`,
    fix: { kind: 'sound', label: 'Make it mono', channels: 'mono', kbps: MONO_KBPS },
  };
};

/** In mono, on a telephone, the sound would vanish. */
export const adviseOnPhase: Advise = ({ findings }) => {
  if (!findings?.channels?.outOfPhase) return null;
  return {
    code: 'out-of-phase',
    severity: 'serious',
    message: 'The two channels are out of phase: played on one loudspeaker, they cancel each other out.',
    remedy: 'Turn one channel’s polarity round in the edit, and export again.',
  };
};

/** Too quiet is turned up by the listener, too loud is turned down by the host. */
export const adviseOnLoudness: Advise = ({ findings }) => {
  const loudness = findings?.loudness;
  if (!loudness || Math.abs(loudness.integratedLufs - WEB_LUFS) < FAR_LU) return null;
  const off = loudness.integratedLufs - WEB_LUFS;
  const to = `${writeLevel(WEB_LUFS, 0)} LUFS`;
  return {
    code: 'loudness-far',
    severity: 'note',
    message: `Loudness is ${writeLevel(loudness.integratedLufs)} LUFS, ${Math.abs(off).toFixed(0)} LU ${off < 0 ? 'below' : 'above'} what open video hosts play at (${writeLevel(WEB_LUFS, 0)}).`,
    remedy:
      off < 0
        ? `It will sound quiet beside others; the next rendition is turned up to ${to}, with its peaks held under ${writeLevel(USUAL_TRUE_PEAK, 0)} dBTP.`
        : `It will be turned down there; the next rendition is turned down to ${to} already.`,
    fix: { kind: 'loudness', label: `Bring it to ${to}`, level: { lufs: WEB_LUFS, truePeakDbtp: USUAL_TRUE_PEAK } },
  };
};

/** Peaks above this clip when they are decoded. */
export const adviseOnTruePeak: Advise = ({ findings }) => {
  const loudness = findings?.loudness;
  if (!loudness || loudness.truePeakDbtp <= USUAL_TRUE_PEAK) return null;
  const down = loudness.truePeakDbtp - USUAL_TRUE_PEAK + LIFT_DB.lossy;
  const lufs = Math.max(LUFS_RANGE[0], Math.min(LUFS_RANGE[1], Math.floor((loudness.integratedLufs - down) * 10) / 10));
  return {
    code: 'true-peak-high',
    severity: 'caution',
    message: `Peaks reach ${writeLevel(loudness.truePeakDbtp)} dBTP; above ${writeLevel(USUAL_TRUE_PEAK, 0)} they distort once compressed (EBU R 128).`,
    remedy: `The next rendition is turned down by ${down.toFixed(1)} dB, so that no peak has to be held.`,
    fix: {
      kind: 'loudness',
      label: `Turn it down to ${writeLevel(lufs)} LUFS`,
      level: { lufs, truePeakDbtp: USUAL_TRUE_PEAK },
    },
  };
};

/** Of several tracks one is taken, or those that are channels of one sound. */
export const adviseOnTracks: Advise = ({ facts }) => {
  const { length } = facts.audio;
  if (length < 2) return null;
  const channels = channelTracks(facts.audio);
  if (channels) {
    const taken =
      channels.length === 2
        ? 'left and right'
        : '5.1: left, right, centre, low frequencies, and left and right surround';
    const all = channels.length === length;
    return {
      code: 'tracks-are-channels',
      severity: 'note',
      message: `There are ${length} sound tracks of one channel each, as exports for broadcasting have them; ${all ? 'they' : `the first ${channels.length}`} are taken as ${taken}${all ? '' : ', and the others are left out'}.`,
      remedy: 'The order line takes others, mixes them, or keeps each by itself.',
    };
  }
  const named = facts.audio.map((track, index) => track.title ?? track.language ?? `track ${index + 1}`);
  return {
    code: 'more-sound-tracks',
    severity: 'note',
    message: `There are ${length} sound tracks (${named.slice(0, 6).join(', ')}${named.length > 6 ? ' …' : ''}), and players play one.`,
    remedy: 'The first is used; the order line takes others, several or all of them mixed into one.',
  };
};
