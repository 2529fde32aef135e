/**
 * Pictures drawn by code, each as a chain of the engine's own sources and filters. They differ in what makes a
 * picture hard to encode: grain, fine type, slow gradients, water, fast pans, stillness.
 */
export interface Scene {
  readonly width: number;
  readonly height: number;
  /** Frames per second, as a fraction. */
  readonly rate: string;
  readonly seconds: number;
}

/** A night sky with film grain, drifting slowly: noise that no encoder can foresee. */
export function grainySky(scene: Scene, grain: number): string {
  return [
    still(scene, starPicture(scene)),
    'scroll=horizontal=0.0006:vertical=0.0002',
    `noise=c0s=${grain}:c0f=t`,
    'format=yuv420p',
  ].join(',');
}

/** Dusk: a gradient so slow that coarse coding shows as steps. */
export function duskGradient(scene: Scene): string {
  const colours = 'c0=0x0b1026:c1=0x3a2a4f:c2=0xb5523b:c3=0xf0b060:nb_colors=4';
  return `gradients=${sizeOf(scene)}:r=${scene.rate}:d=${scene.seconds}:${colours}:x0=0:y0=0:x1=0:y1=${scene.height}:speed=0.004,format=yuv420p`;
}

/** Moonlit water: many small waves, all moving. Drawn small and enlarged, since every pixel is a sum of sines. */
export function water(scene: Scene): string {
  const wave = 'sin(X*0.75+T*5+sin(Y/1.73+T*2)*2)*sin(Y-T*7+cos(X/4)*3)';
  const luma = `clip(58+Y*1.2+46*${wave}+22*sin((X+Y)*1.25+T*11),16,235)`;
  return [
    `color=black:s=128x72:r=${scene.rate}:d=${scene.seconds}`,
    `format=yuv420p,geq=lum='${luma}':cb=138:cr=118`,
    `scale=${scene.width}:${scene.height}:flags=bicubic`,
    'unsharp=5:5:1.2',
  ].join(',');
}

/** A panorama of ridges and stars swept past at speed. */
export function fastPan(scene: Scene): string {
  const wide = { ...scene, width: scene.width * 2 };
  const sweep = `(iw-ow)*(0.5-0.5*cos(2*PI*t/${Math.max(3, scene.seconds / 2)}))`;
  return [still(wide, ridgePicture()), `crop=${scene.width}:${scene.height}:x='${sweep}':y=0`, 'format=yuv420p'].join(
    ',',
  );
}

/** Someone talking: a still room, a figure that hardly moves, a mouth that does. */
export function presenter(scene: Scene): string {
  const { width: w, height: h } = scene;
  const figure = [
    `drawbox=x=${px(w * 0.36)}:y=${px(h * 0.52)}:w=${px(w * 0.28)}:h=${px(h * 0.48)}:color=0x2f4858:t=fill`,
    `drawbox=x=${px(w * 0.43)}:y=${px(h * 0.22)}:w=${px(w * 0.14)}:h=${px(h * 0.3)}:color=0xc99a7a:t=fill`,
    `drawbox=x=${px(w * 0.42)}:y=${px(h * 0.18)}:w=${px(w * 0.16)}:h=${px(h * 0.09)}:color=0x33241c:t=fill`,
  ];
  const mouth = ['0', '0.2', '0.4', '0.6'].map(
    (start, index) =>
      `drawbox=x=${px(w * 0.47)}:y=${px(h * 0.43)}:w=${px(w * 0.06)}:h=${px(h * (0.008 + 0.009 * index))}:color=0x5a2020:t=fill:enable='between(mod(t,0.8),${start},${start}+0.2)'`,
  );
  return [
    // The room is drawn once and held: drawing it for every frame took longer than all the rest.
    `gradients=${sizeOf(scene)}:r=${scene.rate}:d=0.04:c0=0x404a52:c1=0x6d6458:x0=0:y0=0:x1=${w}:y1=${h}:speed=0.00001`,
    held(scene),
    ...figure,
    ...mouth,
    'noise=c0s=2:c0f=t',
    'format=yuv420p',
  ].join(',');
}

/** A card of fine type on a plain ground. */
export function titleCard(scene: Scene, font: string, lines: readonly string[]): string {
  const big = Math.round(scene.height / 11);
  const type = lines.map((line, index) => {
    const size = index === 0 ? big : Math.round(big * 0.42);
    const y = Math.round(scene.height * 0.36 + (index === 0 ? 0 : big * 1.1 + (index - 1) * big * 0.62));
    return `drawtext=fontfile='${font}':text='${line}':fontcolor=0xf3ead8:fontsize=${size}:x=(w-text_w)/2:y=${y}`;
  });
  return [
    `color=0x14161c:s=${scene.width}x${scene.height}:r=${scene.rate}:d=${scene.seconds}`,
    ...type,
    'format=yuv420p',
  ].join(',');
}

/** Nothing to see: the head or tail of a tape. */
export function black(scene: Scene): string {
  return `color=black:s=${scene.width}x${scene.height}:r=${scene.rate}:d=${scene.seconds},format=yuv420p`;
}

/** One drawn picture held for the scene's length. */
function still(scene: Scene, luma: string): string {
  return [
    `color=black:s=${scene.width}x${scene.height}:r=${scene.rate}:d=0.04`,
    `format=yuv444p,geq=${luma}`,
    held(scene),
  ].join(',');
}

/** The one picture before it, repeated for the scene's length. */
function held(scene: Scene): string {
  const frames = Math.ceil(scene.seconds * rateNumber(scene.rate)) + 2;
  return `loop=loop=${frames}:size=1:start=0,trim=duration=${scene.seconds},setpts=N/(${scene.rate})/TB`;
}

function starPicture(scene: Scene): string {
  const sky = `18+20*Y/${scene.height}`;
  return `lum='if(gt(random(1),0.9985),120+random(2)*115,${sky})':cb='136':cr='124'`;
}

function ridgePicture(): string {
  const ridge = '360+90*sin(X/140)+40*sin(X/47)+16*sin(X/13)';
  const ground = '40+24*random(3)+20*sin(X/9)*sin(Y/7)';
  return `lum='if(gt(Y,${ridge}),${ground},if(gt(random(1),0.997),210,70+Y/6))':cb='if(gt(Y,${ridge}),122,140)':cr='if(gt(Y,${ridge}),131,116)'`;
}

function sizeOf(scene: Scene): string {
  return `s=${scene.width}x${scene.height}`;
}

function rateNumber(rate: string): number {
  const [num = 25, den = 1] = rate.split('/').map(Number);
  return num / den;
}

function px(value: number): number {
  return Math.round(value / 2) * 2;
}
