import type { Application } from './application.ts';

/** One application per process, also when the server's code is bundled several times. */
const KEY = Symbol.for('linstock.application');

type Holder = { [KEY]?: Application };

/** Called once at start. */
export function holdApplication(application: Application): void {
  (globalThis as Holder)[KEY] = application;
}

/** @throws When the server has not been started. */
export function theApplication(): Application {
  const application = (globalThis as Holder)[KEY];
  if (!application) throw new Error('The application is not started; start it with ./linstock.');
  return application;
}
