import * as scenes from './scenes.ts';
import type { Scene } from './scenes.ts';

/** One master of the demonstration: what its file is called and how it is drawn. */
export interface Footage {
  readonly file: string;
  /** Graph with the outputs [drawn] (unless sound only) and [sound]. */
  readonly graph: string;
  /** Frames per second of the picture, num/den; null for sound only. */
  readonly rate: `${number}/${number}` | null;
}

/** Sounds of the engine's own making; speech where its synthesiser is built in. */
interface Voice {
  readonly canSpeak: boolean;
  readonly font: string;
}

const HD: Omit<Scene, 'seconds'> = { width: 1280, height: 720, rate: '25' };

/**
 * The season of the invented Hollowmere Planetarium, “The Long Dusk”: five masters between 12 and 40 seconds.
 */
export function demonstrationFootage(voice: Voice): Footage[] {
  return [theLongDusk(voice), trailer(voice), ridgeFlight(), keeperTalk(voice), foyerGuide(voice)];
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
  const sound = `${drone(36, 110)},volume=0.5[sound]`;
  return { file: 'The Long Dusk.mov', graph: [...named, ...joins, sound].join(';'), rate: '25/1' };
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
    graph: [...named, picture, `${drone(12, 70)}[sound]`].join(';'),
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
    graph: [picture, `${drone(12.012, 160)}[sound]`].join(';'),
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
