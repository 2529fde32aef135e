import { copyFileSync, readFileSync, statSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { beforeAll, describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { runProcess } from '../../src/engine/process/runProcess.ts';
import { draw, drawMaster, makeFolder } from '../support/footage.ts';

const engine = createEngine({ ffmpeg: 'ffmpeg', ffprobe: 'ffprobe' });
const folder = makeFolder();
const file = (name: string) => path.join(folder, name);

beforeAll(() => {
  drawMaster(file('secret.mov'), { seconds: 2 });
  drawMaster(file('indexed-last.mov'), { seconds: 4 });
  drawMaster(file('indexed-first.mov'), { seconds: 6, extra: ['-movflags', '+faststart'] });
});

describe('a file that is no programme', () => {
  it.each([
    ['text', 'file-not-media', () => 'This is only a letter about a film.\n'],
    ['nothing', 'file-empty', () => ''],
    [
      'an HLS playlist',
      'file-is-script',
      () => `#EXTM3U\n#EXT-X-TARGETDURATION:2\n#EXTINF:2,\nfile:${file('secret.mov')}\n#EXT-X-ENDLIST\n`,
    ],
    ['a concat script', 'file-is-script', () => `ffconcat version 1.0\nfile '${file('secret.mov')}'\n`],
    [
      'a DASH manifest',
      'file-is-script',
      () => '<?xml version="1.0"?><MPD xmlns="urn:mpeg:dash:schema:mpd:2011"></MPD>',
    ],
    ['a bare list', 'file-is-script', () => `file '${file('secret.mov')}'\n`],
  ])('%s is refused as %s', async (name, code, content) => {
    const disguised = file(`${name}.mp4`);
    writeFileSync(disguised, content());
    await expect(engine.probe(disguised)).rejects.toMatchObject({ name: 'EngineError', code });
  });

  it('cut off before its index is refused', async () => {
    const whole = readFileSync(file('indexed-last.mov'));
    writeFileSync(file('cut-1.mov'), whole.subarray(0, whole.length * 0.6));
    await expect(engine.probe(file('cut-1.mov'))).rejects.toMatchObject({ code: 'file-cut-off' });
  });

  it('put together of two is refused', async () => {
    const one = draw(file('one.ts'), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=160x90:r=25:d=4', '-c:v', 'libx264', '-bf', '3', '-g', '25'],
    ]);
    expect((await engine.probe(one)).facts).toMatchObject({ frameCount: 100 });
    writeFileSync(file('two.ts'), Buffer.concat([readFileSync(one), readFileSync(one)]));
    await expect(engine.probe(file('two.ts'))).rejects.toMatchObject({
      code: 'file-absurd',
      message: expect.stringContaining('Bring each in by itself') as string,
    });
  });

  it.each<readonly [name: string, soundOptions: readonly string[], fileOptions: readonly string[]]>([
    ['sound that begins late', ['-itsoffset', '1.5'], []],
    ['a clock that begins at an hour', [], ['-output_ts_offset', '3600']],
  ])('%s is not taken for a cut', async (name, soundOptions, fileOptions) => {
    const whole = draw(file(`${name}.mkv`), [
      ...['-f', 'lavfi', '-i', 'testsrc2=s=320x180:r=25:d=4'],
      ...[...soundOptions, '-f', 'lavfi', '-i', 'sine=frequency=440:sample_rate=48000:duration=4'],
      ...['-c:v', 'libx264', '-c:a', 'aac', ...fileOptions],
    ]);
    expect((await engine.probe(whole)).facts).toMatchObject({ frameCount: 100, durationSeconds: 4 });
    const cut = file(`${name}, cut.mkv`);
    writeFileSync(cut, readFileSync(whole).subarray(0, statSync(whole).size / 2));
    await expect(engine.probe(cut)).rejects.toMatchObject({ code: 'file-cut-off' });
  });

  it('cut off after its index is refused, with how much is there', async () => {
    const whole = readFileSync(file('indexed-first.mov'));
    writeFileSync(file('cut-2.mov'), whole.subarray(0, whole.length * 0.5));
    await expect(engine.probe(file('cut-2.mov'))).rejects.toMatchObject({
      code: 'file-cut-off',
      message: expect.stringMatching(/ends after \d\.\d s of 6\.0 s/) as string,
    });
  });

  it('whole is taken, whatever its name says', async () => {
    copyFileSync(file('secret.mov'), file('odd name ’ "quoted" %d [x].txt'));
    await expect(engine.probe(file('odd name ’ "quoted" %d [x].txt'))).resolves.toMatchObject({
      facts: { frameCount: 50 },
    });
  });
});

describe('a missing engine', () => {
  it('is reported with what to do', async () => {
    const report = await createEngine({ ffmpeg: '/nowhere/ffmpeg', ffprobe: 'ffprobe' }).report();
    expect(report).toMatchObject({ version: null, encoders: [] });
    expect(report.problem).toMatch(/install Debian’s ffmpeg package/);
  });
});

describe('a run that is held to some memory', () => {
  it('cannot take more', async () => {
    const asked = { file: 'sh', arguments: ['-c', 'ulimit -v'] };
    expect((await runProcess({ ...asked, memoryLimitBytes: 512_000_000 })).stdout.toString().trim()).toBe('500000');
    expect((await runProcess(asked)).stdout.toString().trim()).toBe('unlimited');
  });
});
