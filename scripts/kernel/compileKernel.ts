import { readFile } from 'node:fs/promises';
import asc from 'assemblyscript/asc';

const SOURCE = 'src/core/quality/kernel/pictures.as.ts';

/** Where the compiled sums are kept. */
export const KERNEL_MODULE = 'src/core/quality/kernel/pictures.wasm.ts';

/** The sums over pictures as WebAssembly. */
export async function compileKernel(): Promise<Uint8Array> {
  let binary: Uint8Array | null = null;
  const options = ['-O3', '--enable', 'simd', '--runtime', 'stub', '--noAssert', '--importMemory'];
  const { error, stderr } = await asc.main([SOURCE, ...options, '-o', 'out.wasm'], {
    readFile: (name) => readFile(name, 'utf8').catch(() => null),
    writeFile: (name, content) => {
      if (name === 'out.wasm') binary = content as Uint8Array;
    },
    listFiles: () => [],
  });
  if (error || !binary) throw new Error(`The sums were not compiled: ${String(stderr)}`);
  return binary;
}

/** The module that carries them. */
export function writeModule(binary: Uint8Array): string {
  const text = Buffer.from(binary).toString('base64');
  return `/** Compiled from pictures.as.ts by \`npm run kernel\`; not to be edited. */\nexport const PICTURES_WASM =\n  '${text}';\n`;
}
