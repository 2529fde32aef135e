import type { Logger } from 'pino';
import type { Engine, EngineReport } from '../engine/engine.ts';
import type { Database } from '../store/database.ts';
import type { Config } from './config.ts';
import type { Events } from './events.ts';

/** What the use cases work with; made once by the application. */
export interface Context {
  /** As it is now: folders may be changed while the server runs. */
  readonly config: Config;
  readonly database: Database;
  readonly engine: Engine;
  readonly engineReport: EngineReport;
  readonly events: Events;
  readonly logger: Logger;
  readonly now: () => Date;
  readonly newId: () => string;
}
