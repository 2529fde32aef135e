import { PICTURES_WASM } from './kernel/pictures.wasm.ts';

interface Kernel {
  total(plane: number, count: number): number;
  squares(one: number, other: number, stride: number, width: number, height: number): number;
  detail(plane: number, stride: number, width: number, height: number, step: number): number;
  change(now: number, before: number, stride: number, width: number, height: number): number;
  likeness(
    master: number,
    result: number,
    stride: number,
    width: number,
    height: number,
    c1: number,
    c2: number,
    room: number,
  ): number;
  changeOfChange(
    now: number,
    before: number,
    beforeThat: number,
    stride: number,
    width: number,
    height: number,
  ): number;
}

/**
 * Sums over the samples of pictures, eight or sixteen at a time. Planes lie in its memory and are named by the place of a byte; widths,
 * heights and strides count samples.
 */
export interface PictureSums extends Kernel {
  readonly memory: ArrayBuffer;
  /** 1, or 2 where samples have more than eight bits. */
  readonly sampleBytes: number;
}

const SUMS = [
  'total',
  'squares',
  'detail',
  'change',
  'changeOfChange',
  'likeness',
] as const satisfies readonly (keyof Kernel)[];

/** How much more the filter of `detail` answers than the step it is shown. */
export const FILTER_GAIN = 4;

const PAGE_BYTES = 65_536;

/**
 * @param bytes - Of memory that is needed.
 * @param sampleBytes - As pictures lie in it.
 */
export function createPictureSums(bytes: number, sampleBytes: 1 | 2): PictureSums {
  const memory = new WebAssembly.Memory({ initial: Math.ceil(bytes / PAGE_BYTES) });
  const code = Uint8Array.from(atob(PICTURES_WASM), (letter) => letter.charCodeAt(0));
  const { exports } = new WebAssembly.Instance(new WebAssembly.Module(code), { env: { memory } });
  const sums = Object.fromEntries(SUMS.map((name) => [name, exports[`${name}${sampleBytes}`]]));
  return { ...(sums as unknown as Kernel), memory: memory.buffer, sampleBytes };
}
