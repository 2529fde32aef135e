import { mkdtempSync, writeFileSync } from 'node:fs';
import { homedir, tmpdir } from 'node:os';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { changeConfigFile, resolveConfig } from './config.ts';

function folderWith(config?: string): string {
  const folder = mkdtempSync(path.join(tmpdir(), 'linstock-config-'));
  if (config !== undefined) writeFileSync(path.join(folder, 'linstock.config.json'), config);
  return folder;
}

describe('the configuration', () => {
  it('has defaults under the home folder, on the loopback address', () => {
    const config = resolveConfig({ LINSTOCK_DATA: folderWith() }, '/app');
    expect(config).toMatchObject({ host: '127.0.0.1', port: 4664, ffmpeg: 'ffmpeg', databaseUrl: null });
    expect(config.outputFolder).toBe(path.join(homedir(), 'Linstock', 'renditions'));
  });

  it('takes further names the server answers to, and an empty variable for none', () => {
    const data = folderWith(JSON.stringify({ hosts: ['editing.example'], media: ['/a'] }));
    expect(resolveConfig({ LINSTOCK_DATA: data, LINSTOCK_MEDIA: '' }, '/app')).toMatchObject({
      hosts: ['editing.example'],
      mediaFolders: ['/a'],
      fixed: { media: false, output: false },
    });
    const wins = resolveConfig({ LINSTOCK_DATA: data, LINSTOCK_HOSTS: 'one.example,two.example' }, '/app');
    expect(wins.hosts).toEqual(['one.example', 'two.example']);
  });

  it('is changed in its file, key by key', async () => {
    const data = folderWith(JSON.stringify({ media: ['/a'], port: 5000 }));
    await changeConfigFile(data, { media: ['/a', '/b'] });
    expect(resolveConfig({ LINSTOCK_DATA: data }, '/app')).toMatchObject({ mediaFolders: ['/a', '/b'], port: 5000 });
  });

  it('takes the file, and the environment over it', () => {
    const data = folderWith(JSON.stringify({ media: ['/a', '/b'], output: '/out', port: 5000 }));
    expect(resolveConfig({ LINSTOCK_DATA: data }, '/app')).toMatchObject({
      mediaFolders: ['/a', '/b'],
      outputFolder: '/out',
      port: 5000,
    });
    const wins = resolveConfig({ LINSTOCK_DATA: data, LINSTOCK_MEDIA: '/c:/d', LINSTOCK_PORT: '0' }, '/app');
    expect(wins).toMatchObject({ mediaFolders: ['/c', '/d'], port: 0 });
  });

  it.each([
    ['not JSON', '{', /not valid JSON/],
    ['an unknown key', '{"medai": []}', /medai/],
    ['a port that cannot be', '{"port": 70000}', /port.*65535/],
  ])('refuses %s', (_name, text, message) => {
    expect(() => resolveConfig({ LINSTOCK_DATA: folderWith(text) }, '/app')).toThrow(message);
  });

  it('refuses a port that is none', () => {
    expect(() => resolveConfig({ LINSTOCK_DATA: folderWith(), LINSTOCK_PORT: 'http' }, '/app')).toThrow(
      /LINSTOCK_PORT.*“http”/,
    );
  });
});
