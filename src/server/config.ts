import { readFileSync } from 'node:fs';
import { rename, writeFile } from 'node:fs/promises';
import { homedir } from 'node:os';
import path from 'node:path';
import { array, number, string, type InferType } from 'yup';
import { fault, parseWith, strictObject } from '../contract/strictObject.ts';

/** Everything that can be set from outside, resolved once at start. */
export interface Config {
  readonly dataFolder: string;
  readonly mediaFolders: readonly string[];
  readonly outputFolder: string;
  /** Set by the environment, which wins over the file. */
  readonly fixed: { readonly media: boolean; readonly output: boolean };
  readonly host: string;
  /** Further names the server answers to, besides `host` and the loopback names. */
  readonly hosts: readonly string[];
  readonly port: number;
  readonly databaseUrl: string | null;
  readonly ffmpeg: string;
  readonly ffprobe: string;
  /** Whether encoders in hardware are played by the codecs’ own, to try what is done with them. */
  readonly simulatesHardware: boolean;
  /** Where migrations are read from. */
  readonly applicationFolder: string;
}

const fileSchema = strictObject({
  media: array(string().required()).optional(),
  output: string().optional(),
  host: string().optional(),
  hosts: array(string().required()).optional(),
  port: number().integer().min(0).max(65535, fault('a port from 0 to 65535')).optional(),
  databaseUrl: string().optional(),
  ffmpeg: string().optional(),
  ffprobe: string().optional(),
});

type ConfigFile = InferType<typeof fileSchema>;

type Environment = Readonly<Record<string, string | undefined>>;

/** The settings file is wrong; the sentence names the key. */
export class ConfigError extends Error {
  override name = 'ConfigError';
}

/**
 * Resolves the configuration: the environment wins over `linstock.config.json` in the data folder, which wins over
 * the defaults under the home folder.
 *
 * @throws ConfigError for an unreadable file, an unknown key or a value that cannot be.
 */
export function resolveConfig(environment: Environment, applicationFolder: string): Config {
  const dataFolder = path.resolve(environment['LINSTOCK_DATA'] || path.join(homedir(), '.linstock'));
  const file = readConfigFile(configFileIn(dataFolder));
  const media = environment['LINSTOCK_MEDIA']
    ? environment['LINSTOCK_MEDIA'].split(path.delimiter).filter(Boolean)
    : file.media;
  return {
    dataFolder,
    fixed: { media: Boolean(environment['LINSTOCK_MEDIA']), output: Boolean(environment['LINSTOCK_OUTPUT']) },
    mediaFolders: (media ?? [path.join(homedir(), 'Linstock', 'masters')]).map((folder) => path.resolve(folder)),
    outputFolder: path.resolve(
      environment['LINSTOCK_OUTPUT'] || file.output || path.join(homedir(), 'Linstock', 'renditions'),
    ),
    host: environment['LINSTOCK_HOST'] || file.host || '127.0.0.1',
    hosts: environment['LINSTOCK_HOSTS']?.split(',').filter(Boolean) ?? file.hosts ?? [],
    port: parsePort(environment['LINSTOCK_PORT']) ?? file.port ?? 4664,
    databaseUrl: environment['LINSTOCK_DATABASE_URL'] || file.databaseUrl || null,
    ffmpeg: environment['LINSTOCK_FFMPEG'] || file.ffmpeg || 'ffmpeg',
    ffprobe: environment['LINSTOCK_FFPROBE'] || file.ffprobe || 'ffprobe',
    simulatesHardware: environment['LINSTOCK_HARDWARE'] === 'simulated',
    applicationFolder,
  };
}

/**
 * Changes some keys of the settings file and leaves the others as they are; wholly written or not at all.
 *
 * @throws ConfigError for a file that is wrong already.
 */
export async function changeConfigFile(
  dataFolder: string,
  changes: Pick<ConfigFile, 'media' | 'output'>,
): Promise<void> {
  const file = configFileIn(dataFolder);
  const next = { ...readConfigFile(file), ...changes };
  await writeFile(`${file}.new`, `${JSON.stringify(next, null, 2)}\n`);
  await rename(`${file}.new`, file);
}

function configFileIn(dataFolder: string): string {
  return path.join(dataFolder, 'linstock.config.json');
}

function readConfigFile(file: string): ConfigFile {
  let text: string;
  try {
    text = readFileSync(/* turbopackIgnore: true */ file, 'utf8');
  } catch (error) {
    if ((error as NodeJS.ErrnoException).code === 'ENOENT') return {};
    throw new ConfigError(`${file} cannot be read: ${(error as Error).message}`, { cause: error });
  }
  let json: unknown;
  try {
    json = JSON.parse(text);
  } catch (error) {
    throw new ConfigError(`${file} is not valid JSON: ${(error as Error).message}`, { cause: error });
  }
  const parsed = parseWith(fileSchema, json);
  if (!parsed.ok) throw new ConfigError(`${file}: ${parsed.faults[0].field} ${parsed.faults[0].message}`);
  return parsed.value;
}

function parsePort(text: string | undefined): number | null {
  if (!text) return null;
  const port = Number(text);
  if (!Number.isInteger(port) || port < 0 || port > 65535) {
    throw new ConfigError(`LINSTOCK_PORT: expected a port from 0 to 65535, got “${text}”.`);
  }
  return port;
}
