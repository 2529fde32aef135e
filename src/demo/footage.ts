import * as scenes from './scenes.ts';
import type { Scene } from './scenes.ts';

/** One master of the demonstration: what its file is called and how it is drawn. */
export interface Footage {
  readonly file: string;
  /** Graph with the outputs [drawn] (unless sound only) and [sound]; [effects] where there is a second track. */
  readonly graph: string;
  /** Frames per second of the picture, num/den; null for sound only. */
  readonly rate: `${number}/${number}` | null;
  /** The picture's encoder and tags where they are not the usual ones. */
  readonly encoding?: readonly string[];
  /** Frames keep the times the graph gave them. */
  readonly keepsTimes?: boolean;
  readonly hasEffects?: boolean;
  readonly timecode?: string;
  readonly chapters?: readonly Chapter[];
  readonly captions?: readonly Caption[];
  /** Upright only by a tag. */
  readonly isTurned?: boolean;
  /** Some bytes in the middle are lost, as on a bad copy. */
  readonly isSpoilt?: boolean;
}

interface Chapter {
  readonly startSeconds: number;
  readonly endSeconds: number;
  readonly title: string;
}

interface Caption {
  readonly startSeconds: number;
  readonly endSeconds: number;
  readonly text: string;
}

/** Sounds of the engine's own making; speech where its synthesiser is built in. */
interface Voice {
  readonly canSpeak: boolean;
  readonly font: string;
}

const HD: Omit<Scene, 'seconds'> = { width: 1280, height: 720, rate: '25' };

/**
 * The season of the invented Hollowmere Planetarium, “The Long Dusk”: six masters between 12 and 40 seconds, and
 * three short clips that have whatever can be wrong with a file.
 */
export function demonstrationFootage(voice: Voice): Footage[] {
  return [
    theLongDusk(voice),
    trailer(voice),
    ridgeFlight(),
    keeperTalk(voice),
    domeTape(),
    foyerGuide(voice),
    phoneClip(),
    sunsetTest(),
    lobbyLoop(),
  ];
}

/** Every kind of difficulty in turn, joined by dissolves. */
function theLongDusk(voice: Voice): Footage {
  const part = (seconds: number): Scene => ({ ...HD, seconds });
  const parts = [
    scenes.titleCard(part(7), voice.font, [
      'The Long Dusk',
      'An evening in four skies',
      'Hollowmere Planetarium · Autumn season',
    ]),
    scenes.duskGradient(part(8)),
    scenes.grainySky(part(9), 9),
    scenes.presenter(part(9)),
    scenes.water(part(8)),
  ];
  const named = parts.map((chain, index) => `${chain},settb=1/25,setsar=1[scene${index}]`);
  // Each dissolve takes a second from both its scenes: 41 seconds of scenes make 37.
  const offsets = [6, 13, 21, 29];
  const joins = offsets.map((offset, index) => {
    const from = index === 0 ? '[scene0]' : `[join${index - 1}]`;
    const to =
      index === offsets.length - 1 ? 'trim=duration=36,fade=in:d=1,fade=out:st=35:d=1[drawn]' : `null[join${index}]`;
    return `${from}[scene${index + 1}]xfade=transition=fade:duration=1:offset=${offset},${to}`;
  });
  const sound = `${drone(36, 110)},volume=0.5,asplit[sound][plain];[plain]volume=0.3[effects]`;
  return {
    file: 'The Long Dusk.mov',
    graph: [...named, ...joins, sound].join(';'),
    rate: '25/1',
    hasEffects: true,
    timecode: '10:00:00:00',
    chapters: [
      { startSeconds: 0, endSeconds: 6, title: 'Title' },
      { startSeconds: 6, endSeconds: 13, title: 'Dusk' },
      { startSeconds: 13, endSeconds: 21, title: 'Stars' },
      { startSeconds: 21, endSeconds: 29, title: 'The keeper' },
      { startSeconds: 29, endSeconds: 36, title: 'The lake' },
    ],
    captions: [
      { startSeconds: 7, endSeconds: 11, text: 'The sun has gone below the ridge.' },
      { startSeconds: 14, endSeconds: 18, text: 'One by one, the stars come out.' },
      { startSeconds: 22, endSeconds: 27, text: 'Good evening, and welcome to Hollowmere.' },
    ],
  };
}

/** Letterboxed: the bars are part of the picture. Cuts every two seconds. */
function trailer(voice: Voice): Footage {
  const scene: Scene = { width: 1920, height: 804, rate: '24', seconds: 3 };
  const parts = [
    scenes.fastPan(scene),
    scenes.grainySky(scene, 7),
    scenes.water({ ...scene, width: 1920, height: 804 }),
    scenes.titleCard(scene, voice.font, ['The Long Dusk', 'From the second of October']),
  ];
  const named = parts.map((chain, index) => `${chain},setsar=1[scene${index}]`);
  const inputs = parts.map((_, index) => `[scene${index}]`).join('');
  const picture = `${inputs}concat=n=${parts.length}:v=1:a=0,pad=1920:1080:0:138:black[drawn]`;
  return {
    file: 'Season trailer, letterboxed.mov',
    // As loud as trailers are: its peaks clip.
    graph: [...named, picture, `${drone(12, 70)},volume=9dB[sound]`].join(';'),
    rate: '24/1',
  };
}

/** Fast movement at 60000/1001 frames a second. */
function ridgeFlight(): Footage {
  const scene: Scene = { ...HD, rate: '60000/1001', seconds: 12.5 };
  // 720 frames at 60000/1001 last 12.012 seconds.
  const picture = `${scenes.fastPan(scene)},trim=end_frame=720[drawn]`;
  return {
    file: 'Ridge flight 5994.mov',
    // One loudspeaker was wired the wrong way round.
    graph: [picture, `${drone(12.012, 160)},pan=stereo|c0=c0|c1=-1*c0[sound]`].join(';'),
    rate: '60000/1001',
  };
}

/** A talk with two seconds of black before it and three after it, as it came from the recorder. */
function keeperTalk(voice: Voice): Footage {
  const part = (seconds: number): Scene => ({ ...HD, seconds });
  const graph = [
    `${scenes.black(part(2))},setsar=1[head]`,
    `${scenes.presenter(part(19))},setsar=1[talk]`,
    `${scenes.black(part(3))},setsar=1[tail]`,
    '[head][talk][tail]concat=n=3:v=1:a=0[drawn]',
    `${speech(voice, 'Good evening, and welcome to Hollowmere. Tonight we follow the sun below the ridge, and wait together for the first star.')},adelay=2000:all=1,aresample=48000,apad,atrim=duration=24[sound]`,
  ];
  return { file: 'Talk by the keeper.mov', graph: graph.join(';'), rate: '25/1' };
}

/** An interlaced anamorphic tape of the opening: two fields a frame, the same sound on both channels. */
function domeTape(): Footage {
  const scene: Scene = { width: 720, height: 576, rate: '50', seconds: 12 };
  const picture = `${scenes.fastPan(scene)},tinterlace=mode=interleave_top,setfield=tff,setsar=64/45[drawn]`;
  return {
    file: 'Opening of the dome, tape.mov',
    graph: [picture, `${drone(12, 130)},pan=stereo|c0=c0|c1=c0[sound]`].join(';'),
    rate: '25/1',
    timecode: '00:59:50:00',
    encoding: [
      ...['-c:v', 'mpeg2video', '-qscale:v', '3', '-flags', '+ildct+ilme', '-top', '1', '-g', '1'],
      ...['-pix_fmt', 'yuv420p', '-color_range', 'tv'],
      ...['-color_primaries', 'bt470bg', '-color_trc', 'smpte170m', '-colorspace', 'smpte170m'],
    ],
  };
}

/** A clip from a visitor's telephone: turned by a tag, at whatever rate it liked, small, and heard on one side. */
function phoneClip(): Footage {
  // Held upright: the picture is stored lying on its side.
  const scene: Scene = { width: 272, height: 480, rate: '30', seconds: 4 };
  const picture = `${scenes.presenter(scene)},transpose=cclock,select='not(eq(mod(n,7),3)+eq(mod(n,11),5))'[drawn]`;
  return {
    file: 'Visitor’s phone clip.mp4',
    graph: [picture, `${drone(4, 300)},pan=stereo|c0=c0|c1=0*c1,volume=0.3[sound]`].join(';'),
    rate: '30/1',
    keepsTimes: true,
    isTurned: true,
    encoding: ['-c:v', 'libx264', '-preset', 'veryfast', '-crf', '38', '-pix_fmt', 'yuv420p'],
  };
}

/** A sunset in high dynamic range, ten bits and full range. */
function sunsetTest(): Footage {
  const scene: Scene = { width: 640, height: 360, rate: '25', seconds: 3 };
  return {
    file: 'Sunset test, wide range.mov',
    graph: [`${scenes.duskGradient(scene)}[drawn]`, `${drone(3, 90)}[sound]`].join(';'),
    rate: '25/1',
    encoding: [
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '10', '-pix_fmt', 'yuv420p10le', '-color_range', 'pc'],
      ...['-color_primaries', 'bt2020', '-color_trc', 'smpte2084', '-colorspace', 'bt2020nc'],
    ],
  };
}

/** An old export for the lobby: a rounded rate, an odd width, wrong tags, no sound to hear, and a bad copy at that. */
function lobbyLoop(): Footage {
  const scene: Scene = { width: 640, height: 360, rate: '2997/100', seconds: 4 };
  return {
    file: 'Lobby loop, old export.mp4',
    graph: [
      `${scenes.water(scene)},scale=641:360,setsar=1,format=yuv444p[drawn]`,
      'anullsrc=channel_layout=stereo:sample_rate=48000,atrim=duration=4[sound]',
    ].join(';'),
    rate: '2997/100',
    isSpoilt: true,
    encoding: [
      ...['-c:v', 'libx264', '-preset', 'ultrafast', '-crf', '18', '-x264-params', 'tff=1', '-pix_fmt', 'yuv444p'],
      ...['-color_range', 'tv', '-color_primaries', 'bt709', '-color_trc', 'bt709', '-colorspace', 'bt709'],
    ],
  };
}

/** Sound only. */
function foyerGuide(voice: Voice): Footage {
  const text =
    'You are standing in the foyer of Hollowmere Planetarium. Turn to your left, and you will find the old brass orrery.';
  return {
    file: 'Foyer audio guide.wav',
    graph: `${speech(voice, text)},aresample=48000,apad,atrim=duration=14[sound]`,
    rate: null,
  };
}

function drone(seconds: number, hertz: number): string {
  const chord = [1, 1.5, 2.01].map((step) => `0.16*sin(2*PI*${hertz * step}*t)`).join('+');
  const swell = `(0.6+0.4*sin(2*PI*t/7))`;
  return `aevalsrc='${swell}*(${chord})|${swell}*(${chord.replaceAll('0.16', '0.14')})':s=48000:d=${seconds}`;
}

function speech(voice: Voice, text: string): string {
  return voice.canSpeak
    ? `flite=text='${text.replaceAll(',', '\\,')}'`
    : 'sine=frequency=220:duration=10,tremolo=f=4:d=0.8';
}
