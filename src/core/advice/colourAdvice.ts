import { isColourTagged, isHighDynamicRange, SD_MAX_HEIGHT } from '../programme/colour.ts';
import type { Advise } from './advisory.ts';

/** Lines of standard definition as it is broadcast and on tape (ITU-R BT.601); small pictures made for the web have others. */
const SD_LINES = new Set([480, 486, 576]);
const SD_MAX_WIDTH = 768;

/** Matrices of BT.601, the custom of standard definition. */
const SD_MATRICES = new Set(['smpte170m', 'bt470bg', 'fcc']);

/** Colour that is not written down is guessed, by each player in its own way. */
export const adviseOnMissingTags: Advise = ({ facts }) => {
  const { video } = facts;
  if (!video || isColourTagged(video.colour)) return null;
  const custom = facts.height > SD_MAX_HEIGHT ? 'BT.709, as HD is by custom' : 'BT.601, as SD is by custom';
  return {
    code: 'colour-not-tagged',
    severity: 'note',
    message: 'The file does not fully say which colour it is in, so players guess, and may show a tint.',
    remedy: `It is taken as ${custom}; renditions are tagged.`,
  };
};

/** SD tagged as HD or the reverse: usually the tag is wrong, and that is where tints come from. */
export const adviseOnTagAgainstSize: Advise = ({ facts }) => {
  const { video } = facts;
  if (!video?.colour.matrix) return null;
  const { matrix } = video.colour;
  const isSd = SD_LINES.has(facts.height) && facts.width <= SD_MAX_WIDTH;
  const isHd = facts.height > SD_MAX_HEIGHT || facts.width > 1024;
  const contradicts = (isSd && matrix === 'bt709') || (isHd && SD_MATRICES.has(matrix));
  if (!contradicts) return null;
  return {
    code: 'colour-tag-unusual',
    severity: 'caution',
    message: isSd
      ? 'An SD picture is tagged with the colour of HD (BT.709); if the tag is wrong, reds and greens are tinted.'
      : 'An HD picture is tagged with the colour of SD (BT.601); if the tag is wrong, reds and greens are tinted.',
    remedy: 'The tag is believed; compare a frame with the edit before sending.',
  };
};

/** Full range looks washed out or crushed where it is taken for limited. */
export const adviseOnFullRange: Advise = ({ facts }) => {
  if (facts.video?.colour.range !== 'full' || facts.video.colour.matrix === 'gbr') return null;
  return {
    code: 'full-range',
    severity: 'note',
    message: 'The picture is in full range; players that take it for video range crush its darks and lights.',
    remedy: 'Renditions are brought to video range.',
  };
};

/** High dynamic range on an ordinary screen. */
export const adviseOnHdr: Advise = ({ facts }) => {
  if (!facts.video || !isHighDynamicRange(facts.video)) return null;
  const kind = facts.video.colour.transfer === 'smpte2084' ? 'PQ' : 'HLG';
  return {
    code: 'high-dynamic-range',
    severity: 'serious',
    message: `This is a high dynamic range master (${kind}); on an ordinary screen it looks flat and grey.`,
    remedy: 'Its light can be brought down to BT.709; a version made in the grade is better still.',
    fix: { kind: 'standard-range', label: 'Bring it to standard range' },
  };
};

/** Players decode 8 bits; more is rounded. */
export const adviseOnBitDepth: Advise = ({ facts }) => {
  if (!facts.video || facts.video.bitDepth <= 8) return null;
  return {
    code: 'deep-colour',
    severity: 'note',
    message: `The picture has ${facts.video.bitDepth} bits a sample; web players want 8, and slow gradients may show steps.`,
    remedy: 'Renditions have 8 bits; look at skies and fades.',
  };
};
