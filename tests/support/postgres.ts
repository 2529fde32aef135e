import { execFileSync, spawn } from 'node:child_process';
import { chmodSync, chownSync, existsSync, readdirSync } from 'node:fs';
import { createServer } from 'node:net';
import path from 'node:path';
import pg from 'pg';
import { makeFolder } from './footage.ts';

/** Where Debian puts PostgreSQL. */
const HOME = '/usr/lib/postgresql';

/** A PostgreSQL server for one test file. */
export interface TestPostgres {
  readonly url: string;
  stop(): Promise<void>;
}

/** @throws When it is not installed; the test command installs it. */
export async function startPostgres(): Promise<TestPostgres> {
  const programs = (existsSync(HOME) ? readdirSync(HOME) : [])
    .map((version) => path.join(HOME, version, 'bin'))
    .find((folder) => existsSync(path.join(folder, 'initdb')));
  if (!programs) throw new Error('PostgreSQL is not installed; “./linstock test” installs Debian’s postgresql.');
  const folder = makeFolder();
  const port = await freePort();
  // The server refuses to run as root, so it runs as the user its package made.
  const user = process.getuid?.() === 0 ? { uid: idOf('-u'), gid: idOf('-g') } : null;
  if (user) {
    chmodSync(folder, 0o755);
    chownSync(folder, user.uid, user.gid);
  }
  const data = path.join(folder, 'cluster');
  const cluster = ['-D', data, '-U', 'linstock', '--auth=trust', '-E', 'UTF8', '--locale=C', '--no-sync'];
  execFileSync(path.join(programs, 'initdb'), cluster, { ...user, cwd: folder, stdio: 'ignore' });
  const args = ['-D', data, '-h', '127.0.0.1', '-p', String(port), '-k', folder, '-c', 'fsync=off'];
  const server = spawn(path.join(programs, 'postgres'), args, { ...user, cwd: folder, stdio: 'ignore' });
  const url = `postgresql://linstock@127.0.0.1:${port}/postgres`;
  await untilReady(url);
  return {
    url,
    stop: () =>
      new Promise((resolve) => {
        server.once('exit', () => resolve());
        server.kill('SIGINT');
      }),
  };
}

function idOf(flag: string): number {
  return Number(execFileSync('id', [flag, 'postgres'], { encoding: 'utf8' }));
}

function freePort(): Promise<number> {
  return new Promise((resolve) => {
    const server = createServer().listen(0, '127.0.0.1', () => {
      const address = server.address();
      server.close(() => resolve(typeof address === 'object' && address ? address.port : 0));
    });
  });
}

async function untilReady(url: string): Promise<void> {
  for (let tries = 0; ; tries += 1) {
    const client = new pg.Client({ connectionString: url });
    try {
      await client.connect();
      await client.end();
      return;
    } catch (error) {
      if (tries > 100) throw error;
      await new Promise((resolve) => setTimeout(resolve, 100));
    }
  }
}
