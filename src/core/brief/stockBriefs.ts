import { OPEN_BRIEF, type Brief } from './brief.ts';

/** A brief that ships, with a sentence what it is for. */
export interface StockBrief {
  readonly id: string;
  readonly brief: Brief;
  readonly notes: string;
}

const MIB = 1_048_576;

const WEB: Partial<Brief> = {
  containers: ['mp4'],
  codecs: ['h264'],
  soundCodecs: ['aac'],
  plainPixels: true,
  picture: true,
  maxChannels: 2,
};

function brief(name: string, asks: Partial<Brief>): Brief {
  return { ...OPEN_BRIEF, name, ...asks };
}

/** Receivers of a general kind, invented; their figures are common practice, no source. */
export const STOCK_BRIEFS: readonly StockBrief[] = [
  {
    id: 'stock-host-2160',
    brief: brief('Video host, 2160 lines', {
      containers: ['mp4', 'mov', 'webm'],
      picture: true,
      maxWidth: 3840,
      maxHeight: 2160,
      maxFrameRate: { num: 60, den: 1 },
      maxPictureKbps: 68_000,
      maxKeyframeSeconds: 5,
    }),
    notes: 'An open host that encodes again: rather too good than too small.',
  },
  {
    id: 'stock-host-1080',
    brief: brief('Video host, 1080 lines', {
      ...WEB,
      maxWidth: 1920,
      maxHeight: 1080,
      maxFrameRate: { num: 60, den: 1 },
      maxPictureKbps: 12_000,
      maxKeyframeSeconds: 5,
    }),
    notes: 'An open host at the usual frame size.',
  },
  {
    id: 'stock-upright',
    brief: brief('Upright short', {
      ...WEB,
      maxWidth: 1080,
      maxHeight: 1920,
      shape: { num: 9, den: 16 },
      maxSeconds: 90,
      maxPictureKbps: 8000,
      maxFrameRate: { num: 60, den: 1 },
    }),
    notes: 'For telephones held upright; of a wide picture the middle is taken.',
  },
  {
    id: 'stock-hero',
    brief: brief('Hero clip of a page', {
      ...WEB,
      maxBytes: 5_000_000,
      maxWidth: 1920,
      maxHeight: 1080,
      maxSeconds: 30,
      maxFrameRate: { num: 30, den: 1 },
      plainName: true,
    }),
    notes: 'Plays behind a page’s title; every visitor loads it.',
  },
  {
    id: 'stock-chat',
    brief: brief('Chat attachment, 10 MB', { ...WEB, maxBytes: 10_000_000, maxWidth: 1280, maxHeight: 720 }),
    notes: 'For groups and chats that take ten megabytes.',
  },
  {
    id: 'stock-message',
    brief: brief('Message attachment, 25 MiB', {
      ...WEB,
      maxBytes: 25 * MIB,
      unit: 'MiB',
      maxWidth: 1280,
      maxHeight: 720,
    }),
    notes: 'For mail that takes twenty-five mebibytes.',
  },
  {
    id: 'stock-handheld',
    brief: brief('Hand-held player, 640 × 480', {
      ...WEB,
      maxWidth: 640,
      maxHeight: 480,
      maxFrameRate: { num: 30, den: 1 },
      maxPictureKbps: 1500,
      maxLevel: '3.0',
      maxSoundKbps: 160,
    }),
    notes: 'Small players of some years ago.',
  },
  {
    id: 'stock-feed',
    brief: brief('Feed of talks', {
      picture: false,
      containers: ['mp3', 'm4a'],
      soundCodecs: ['mp3', 'aac'],
      maxSoundKbps: 128,
      maxChannels: 2,
      // Talk for telephones and headphones (common practice, no source).
      loudness: { lufs: -16, within: 1, maxTruePeakDbtp: -1 },
      plainName: true,
    }),
    notes: 'Sound alone, for subscribers, as loud as other talk.',
  },
  {
    id: 'stock-client',
    brief: brief('Review copy for a client', {
      ...WEB,
      maxWidth: 1280,
      maxHeight: 720,
      maxTotalKbps: 4000,
      maxKeyframeSeconds: 2,
    }),
    notes: 'To be wound through and commented on; keyframes lie near each other.',
  },
  {
    id: 'stock-projector',
    brief: brief('Projector insert', {
      containers: ['mov', 'mp4'],
      codecs: ['h264', 'prores'],
      picture: true,
      maxWidth: 1920,
      maxHeight: 1080,
      maxFrameRate: { num: 30, den: 1 },
      maxPictureKbps: 250_000,
      soundCodecs: ['aac', 'pcm'],
    }),
    notes: 'Played from a machine beside a projector.',
  },
  {
    id: 'stock-keep',
    brief: brief('Archive copy', {
      containers: ['matroska', 'mov'],
      codecs: ['ffv1', 'prores'],
      picture: true,
      soundCodecs: ['flac', 'pcm'],
    }),
    notes: 'What is put away and taken out in years.',
  },
];
