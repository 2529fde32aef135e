import { randomBytes } from 'node:crypto';
import { mkdir, readFile, writeFile } from 'node:fs/promises';
import path from 'node:path';
import { pino, type Logger } from 'pino';
import type { RenditionRequest } from '../contract/recipe.ts';
import type { FoldersRequest } from '../contract/system.ts';
import type { RenditionView, SystemView } from '../contract/views.ts';
import { createEngine } from '../engine/createEngine.ts';
import type { Engine, HardwareEncoder } from '../engine/engine.ts';
import type { Database } from '../store/database.ts';
import { migrate } from '../store/migrate.ts';
import { lockFolder, openEmbedded } from '../store/openEmbedded.ts';
import { openServer } from '../store/openServer.ts';
import type { Config } from './config.ts';
import type { Context } from './context.ts';
import { databaseFolder, makeCopy, makeNightlyCopies } from './database/copies.ts';
import { templateFolder } from './database/template.ts';
import { createEvents } from './events.ts';
import { changeFolders } from './folders/changeFolders.ts';
import { createStops, type Stops } from './stops.ts';
import { orderRendition } from './renditions/renditions.ts';
import { askAnalysis, askMissingAnalyses } from './analysis/analyses.ts';
import { createAnalysisHandler, type AnalysisHandler } from './analysis/analysisJob.ts';
import { createBatchHandler } from './batches/batchJob.ts';
import { openLine, type Line } from './line/line.ts';
import { startScheduler, type Scheduler } from './jobs/scheduler.ts';
import { createMasterWatch } from './programmes/masterWatch.ts';
import { startRelay } from './relay.ts';
import { createTakeInHandler } from './takein/takeInJob.ts';
import { createUploads, type Uploads } from './uploads/uploads.ts';
import { createRenditionHandler } from './runner/renditionJob.ts';
import { createSoundingHandler } from './soundings/soundings.ts';
import { createStandIns, type StandIns } from './standIns/standIns.ts';
import { createStills, type Stills } from './stills/stills.ts';
import { createTrialHandler } from './trials/trialJob.ts';
import { createTurns, type Turns } from './turns.ts';

/** Frames and pieces made for pages at a time: each takes a core, and the rest of the server wants one too. */
const PICTURES_AT_ONCE = 2;

/** Orders read, planned and recorded at a time; hundreds may come at once, and pages want answers meanwhile. */
const ORDERS_AT_ONCE = 1;

/** The one application of a process: the use cases' context and everything that runs beside requests. */
export interface Application extends Stops {
  readonly context: Context;
  readonly stills: Stills;
  readonly standIns: StandIns;
  readonly scheduler: Scheduler;
  readonly analyses: AnalysisHandler;
  readonly uploads: Uploads;
  readonly line: Line;
  /** Whoever orders is heard in turn, from the reading of what is asked for. */
  readonly ordering: Turns;
  order(request: RenditionRequest): Promise<RenditionView>;
  system(): SystemView;
  /** Hardware encoders, tried when they are first asked about. */
  hardware(): Promise<readonly HardwareEncoder[]>;
  changeFolders(request: FoldersRequest): Promise<SystemView>;
  /** Ends everything, encoders included, and gives the data folder back. */
  stop(): Promise<void>;
}

export interface ApplicationParts {
  readonly engine?: Engine;
  readonly logger?: Logger;
}

/**
 * Starts the application: lock, database, migrations, engine, runner.
 *
 * @throws FolderInUseError when another process works on the data folder.
 */
export async function startApplication(config: Config, parts: ApplicationParts = {}): Promise<Application> {
  const logger = parts.logger ?? pino({ level: 'info' }, pino.destination(2));
  const release = await lockFolder(config.dataFolder, (error) => {
    logger.fatal({ err: error }, 'the lock on the data folder was lost');
    process.exit(1);
  });
  try {
    return await build(config, parts, logger, release);
  } catch (error) {
    await release();
    throw error;
  }
}

async function build(
  config: Config,
  parts: ApplicationParts,
  logger: Logger,
  release: () => Promise<void>,
): Promise<Application> {
  await Promise.all([...config.mediaFolders, config.outputFolder].map(makeFolder));
  const database = await openDatabase(config);
  await migrate(database, path.join(config.applicationFolder, 'src/store/migrations'), () =>
    makeCopy(config.dataFolder, database, new Date()),
  );
  const engine = parts.engine ?? createEngine(config);
  const engineReport = await engine.report();
  if (engineReport.problem) logger.warn(engineReport.problem);
  let current = config;
  const context: Context = {
    get config() {
      return current;
    },
    database,
    engine,
    engineReport,
    events: createEvents(),
    logger,
    now: () => new Date(),
    newId: () => randomBytes(8).toString('hex'),
  };
  const relay = await startRelay(context);
  const analyses = createAnalysisHandler(context);
  // The line and the handlers are made before the scheduler that they wake.
  const started: { scheduler: Scheduler | null } = { scheduler: null };
  const wake = () => started.scheduler?.wake();
  const line = await openLine(context, wake);
  const handlers = [
    createTakeInHandler(context),
    createSoundingHandler(context),
    createTrialHandler(context),
    createRenditionHandler(context, line),
    createBatchHandler(context, wake),
    analyses,
  ];
  await askMissingAnalyses(context);
  const scheduler = await startScheduler(context, await runnerName(config.dataFolder), handlers, line.room);
  started.scheduler = scheduler;
  const watch = createMasterWatch(context);
  analyseWhatComesIn(context, scheduler);
  const copies = makeNightlyCopies(context);
  const uploads = createUploads(context);
  return {
    context,
    ...createPictures(context),
    scheduler,
    analyses,
    uploads,
    line,
    ordering: createTurns(ORDERS_AT_ONCE),
    order: async (request) => {
      const rendition = await orderRendition(context, request);
      scheduler.wake();
      return rendition;
    },
    ...createStops(context, scheduler),
    system: () => viewSystem(context),
    hardware: () => engine.probeHardware(),
    changeFolders: async (request) => {
      current = await changeFolders(current, request);
      return viewSystem(context);
    },
    stop: async () => {
      uploads.stop();
      line.stop();
      await Promise.all([scheduler.stop(), watch.stop(), copies.stop(), relay.stop()]);
      await database.close();
      await release();
    },
  };
}

/** What pages look at, made in turns that all of it shares. */
function createPictures(context: Context): Pick<Application, 'stills' | 'standIns'> {
  const turns = createTurns(PICTURES_AT_ONCE);
  return { stills: createStills(context, turns), standIns: createStandIns(context, turns) };
}

function viewSystem({ config, engineReport, database }: Context): SystemView {
  const { mediaFolders, outputFolder, dataFolder, fixed } = config;
  return { engine: engineReport, mediaFolders, outputFolder, fixed, dataFolder, database: database.kind };
}

/** Whatever comes in, by whichever way, is analysed. */
function analyseWhatComesIn(context: Context, scheduler: Scheduler): void {
  context.events.subscribe((event) => {
    if (event.type !== 'programme' || event.programme.state !== 'ready') return;
    askAnalysis(context, event.programme.id).then(
      () => scheduler.wake(),
      (error: unknown) => context.logger.warn({ err: error }, 'an analysis was not asked for'),
    );
  });
}

async function openDatabase(config: Config): Promise<Database> {
  if (config.databaseUrl) return openServer(config.databaseUrl);
  return openEmbedded(databaseFolder(config.dataFolder), templateFolder(config.applicationFolder));
}

/** A folder that cannot be made is reported where it is used. */
async function makeFolder(folder: string): Promise<void> {
  await mkdir(folder, { recursive: true }).catch(() => undefined);
}

/** The data folder's lock makes sure that one process at a time goes by this name. */
async function runnerName(dataFolder: string): Promise<string> {
  const file = path.join(dataFolder, 'runner-name');
  const known = await readFile(file, 'utf8').catch(() => '');
  if (known) return known;
  const name = `runner-${randomBytes(6).toString('hex')}`;
  await writeFile(file, name);
  return name;
}
