/** Serves the built application: one process, one line when it can be used, and an orderly end on a signal. */
import { createServer, type Server } from 'node:http';
import type { AddressInfo } from 'node:net';
import next from 'next';
import { seedDemonstration } from '../src/demo/seedDemonstration.ts';
import { startApplication, type Application } from '../src/server/application.ts';
import { resolveConfig } from '../src/server/config.ts';
import { createRequestGate } from '../src/server/guard/requestGate.ts';
import { holdApplication } from '../src/server/theApplication.ts';

/** Open event streams would hold the server up for ever. */
const CLOSE_AFTER_MS = 1000;

const isDemonstration = process.argv.includes('--demo');
let application: Application | null = null;
let server: Server | null = null;
let isEnding = false;

async function end(code: number): Promise<void> {
  if (isEnding) return;
  isEnding = true;
  const open = server;
  open?.close();
  setTimeout(() => open?.closeAllConnections(), CLOSE_AFTER_MS).unref();
  await application?.stop();
  process.exit(code);
}

/** A script that asks every few seconds must not send into a line that is being closed: five seconds were too few. */
const KEEP_OPEN_MS = 65_000;

async function serve(): Promise<void> {
  const config = resolveConfig(process.env, process.cwd());
  const { host, port } = config;
  const app = next({ dev: false, hostname: host, port, quiet: true });
  const [started] = await Promise.all([startApplication(config), app.prepare()]);
  application = started;
  holdApplication(started);
  if (isDemonstration) await seedDemonstration(started);
  const handle = app.getRequestHandler();
  const listening = createServer(
    { keepAliveTimeout: KEEP_OPEN_MS },
    createRequestGate(config, (request, response) => void handle(request, response)),
  );
  server = listening;
  await new Promise<void>((resolve, reject) => listening.once('error', reject).listen(port, host, resolve));
  const { port: taken } = listening.address() as AddressInfo;
  console.log(`Linstock is ready at http://${host.includes(':') ? `[${host}]` : host}:${taken}`);
}

function explain(error: unknown): string {
  const { code, message } = error as NodeJS.ErrnoException;
  if (code === 'EADDRINUSE') return 'The port is in use; stop what uses it, or set LINSTOCK_PORT to another.';
  return message;
}

for (const signal of ['SIGINT', 'SIGTERM', 'SIGHUP'] as const) process.on(signal, () => void end(0));
serve().catch(async (error: unknown) => {
  console.error(explain(error));
  await end(1);
});
