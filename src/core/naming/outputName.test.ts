import { describe, expect, it } from 'vitest';
import type { NameFields } from './nameTemplate.ts';
import { faultInName, numberName, proposeOutputName, withEnding } from './outputName.ts';

const FIELDS: NameFields = {
  ...{ programme: 'Slow sky.mov', portion: '', recipe: 'Web 720', size: '1280x720', width: '1280', height: '720' },
  ...{ fps: '25', codec: 'h264', sound: 'aac', date: '2026-10-03' },
};
const SOUND_ALONE = { ...FIELDS, programme: 'Guide.wav', size: '', width: '', height: '', fps: '', codec: '' };

describe('output names', () => {
  it('tell programme, frame size and codec', () => {
    expect(proposeOutputName(null, FIELDS, '.mp4')).toBe('Slow sky 1280x720 h264.mp4');
    expect(proposeOutputName(null, SOUND_ALONE, '.m4a')).toBe('Guide sound.m4a');
    const talk = { ...FIELDS, programme: 'Talk.mov', portion: 'Opening/words' };
    expect(proposeOutputName(null, talk, '.mp4')).toBe('Talk, Opening-words 1280x720 h264.mp4');
  });

  it('are as they are asked for', () => {
    expect(proposeOutputName('{date} {programme}_{height}p', FIELDS, '.mp4')).toBe('2026-10-03 Slow sky_720p.mp4');
    expect(proposeOutputName('{recipe}/{fps} fps', FIELDS, '.mp4')).toBe('Web 720-25 fps.mp4');
    expect(proposeOutputName('{portion}', FIELDS, '.mp4')).toBe('rendition.mp4');
  });

  it('leave out what a file name cannot hold, and stay short', () => {
    expect(proposeOutputName(null, { ...FIELDS, programme: 'a/b:c"d\u202e\n.mov' }, '.mp4')).toBe(
      'a-b-c-d 1280x720 h264.mp4',
    );
    const many = { ...FIELDS, programme: `${'ä'.repeat(300)}.mov`, portion: 'ö'.repeat(200) };
    const long = proposeOutputName(null, many, '.mp4');
    expect(new TextEncoder().encode(long).length).toBeLessThanOrEqual(180);
    expect(long).toMatch(/ö 1280x720 h264\.mp4$/);
    const longer = proposeOutputName('{recipe} {recipe} {programme}', { ...many, recipe: 'r'.repeat(120) }, '.mp4');
    expect(new TextEncoder().encode(longer).length).toBeLessThanOrEqual(180);
  });

  it('end as their container does', () => {
    expect(withEnding('a.mp4', '.mp4')).toBe('a.mp4');
    expect(withEnding('a.MP4', '.mp4')).toBe('a.MP4');
    expect(withEnding('a.exe', '.mp4')).toBe('a.exe.mp4');
    expect(withEnding('v1.2', '.m4a')).toBe('v1.2.m4a');
  });

  it('get a number before the extension', () => {
    expect(numberName('a.b.mp4', 2)).toBe('a.b 2.mp4');
    expect(numberName('plain', 3)).toBe('plain 3');
  });

  it('are refused with what is wrong', () => {
    for (const name of ['', '  ', '../x.mp4', 'a\\b.mp4', 'a\nb.mp4', '.hidden.mp4', 'x'.repeat(300)])
      expect(faultInName(name)).toMatch(/\.$/);
    expect(faultInName('Good name (2).mp4')).toBeNull();
  });
});
