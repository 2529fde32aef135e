/**
 * Measures what is asked of Linstock on the demonstration's programmes and prints tables:
 *
 *   npm run bench                  everything
 *   npm run bench -- fills         caps filled: work against plain encodes, quality against two passes of the same bytes
 *   npm run bench -- recipes       300 tiny encodes of random recipes: what core accepts the engine encodes, and it passes
 *   npm run bench -- forecasts     expected against real sizes over fifty random settings: share inside, width
 *   npm run bench -- excerpts      wholes foreseen from a tenth of their groups, against whole encodes and even excerpts
 *   npm run bench -- choice        the best under a cap by trials, against whole encodes of the whole grid
 *   npm run bench -- scale         10,000 renditions in the ledger and 2,000 waiting: what answers take
 *   npm run bench -- batches       300 programmes by three recipes: what planning, queueing and counting them back take
 *   npm run bench -- scrolling     the same in a browser: how long frames of the page take (wants a build)
 *   npm run bench -- night         every recipe that ships over the demonstration: counts, promised and taken time
 *   npm run bench -- left          what batches say is left of them, the demonstration and clips of mixed lengths, against what it then took
 *   npm run bench -- endurance     2,000 tiny renditions in a row: the server's memory (wants a build)
 *   npm run bench -- kills         50 kills of the server over a batch of 20 (wants a build)
 *   npm run bench -- shared        12 kills of two servers on one PostgreSQL (wants a build)
 *   npm run bench -- overhead      a rendition against the same engine commands by hand
 *   npm run bench -- comparing     comparing results with their master against encoding them; XPSNR against the engine’s SSIM
 *   npm run bench -- frames        an exact frame pair, cold and warm
 *   npm run bench -- soundings     expected against real sizes at constant quality
 *   npm run bench -- analysis      the analysis of each programme against only decoding it
 *   npm run bench -- takein        a folder of a thousand small files
 *   npm run bench -- strips        three hours of strips: reduced to a screen’s columns, and zoomed in a browser
 *   npm run bench -- bursts        other answers while stills, stand-ins and orders come by the dozen (wants a build)
 *   npm run bench -- upload        memory of the server while four gigabytes arrive
 */
import { mkdtemp, rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pino } from 'pino';
import type { ProgrammeView } from '../src/contract/views.ts';
import { drawFootage } from '../src/demo/drawFootage.ts';
import { startApplication, type Application } from '../src/server/application.ts';
import { resolveConfig } from '../src/server/config.ts';
import { takeIn } from '../src/server/programmes/programmes.ts';
import { benchAnalysis, benchStrips, benchTakeIn, benchUpload } from './bench/bringingIn.ts';
import { benchBatchScale } from './bench/batchScale.ts';
import { benchBatchLeft } from './bench/batchLeft.ts';
import { benchBursts } from './bench/bursts.ts';
import { benchFills } from './bench/fills.ts';
import { benchComparing } from './bench/comparing.ts';
import { benchChoice } from './bench/choice.ts';
import { benchEndurance } from './bench/endurance.ts';
import { benchExcerpts } from './bench/excerpts.ts';
import { benchForecasts } from './bench/forecasts.ts';
import { benchRecipes } from './bench/recipes.ts';
import { benchFrames, benchOverhead, benchSoundings } from './bench/renditions.ts';
import { benchKills } from './bench/kills.ts';
import { benchSharedKills } from './bench/sharedKills.ts';
import { benchNight } from './bench/night.ts';
import { benchProgress } from './bench/progress.ts';
import { benchScale } from './bench/scale.ts';
import { benchScrolling } from './bench/scrolling.ts';
import { benchStripFrames } from './bench/stripFrames.ts';
import { seconds } from './bench/timing.ts';

const folder = await mkdtemp(path.join(tmpdir(), 'linstock-bench-'));
const environment = {
  LINSTOCK_DATA: path.join(folder, 'data'),
  LINSTOCK_MEDIA: path.join(folder, 'masters'),
  LINSTOCK_OUTPUT: path.join(folder, 'out'),
};
const config = resolveConfig(environment, process.cwd());
const application = await startApplication(config, { logger: pino({ level: 'silent' }) });
const wanted = process.argv.slice(2);
const sections: Record<string, (application: Application, programmes: ProgrammeView[]) => Promise<void>> = {
  overhead: benchOverhead,
  comparing: benchComparing,
  frames: benchFrames,
  soundings: benchSoundings,
  analysis: benchAnalysis,
  takein: benchTakeIn,
  strips: async () => {
    await benchStrips();
    await benchStripFrames();
  },
  bursts: benchBursts,
  upload: benchUpload,
  fills: benchFills,
  recipes: benchRecipes,
  forecasts: benchForecasts,
  excerpts: benchExcerpts,
  choice: benchChoice,
  scale: benchScale,
  batches: benchBatchScale,
  scrolling: benchScrolling,
  endurance: benchEndurance,
  kills: benchKills,
  shared: benchSharedKills,
  night: benchNight,
  progress: benchProgress,
  left: benchBatchLeft,
};

try {
  const started = performance.now();
  const files = await drawFootage(config.ffmpeg, process.cwd(), config.mediaFolders[0] ?? folder);
  console.log(`Drawing the demonstration: ${seconds(performance.now() - started)}`);
  const programmes: ProgrammeView[] = [];
  for (const file of files) programmes.push(await takeIn(application.context, file));
  // The faulty clips are for the advisories; they are too short to say anything about sizes.
  const pictures = programmes.filter(({ video, durationSeconds }) => video !== null && durationSeconds > 10);
  for (const [name, bench] of Object.entries(sections)) {
    if (wanted.length === 0 || wanted.includes(name)) await bench(application, pictures);
  }
} finally {
  await application.stop();
  await rm(folder, { recursive: true, force: true });
}
