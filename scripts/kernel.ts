/** Compiles the sums over pictures: `npm run kernel`, after `src/core/quality/kernel/pictures.as.ts` was changed. */
import { writeFileSync } from 'node:fs';
import { compileKernel, KERNEL_MODULE, writeModule } from './kernel/compileKernel.ts';

writeFileSync(KERNEL_MODULE, writeModule(await compileKernel()));
