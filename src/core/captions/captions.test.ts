import fc from 'fast-check';
import { describe, expect, it } from 'vitest';
import { captionTracks, nameLanguage } from './captionTracks.ts';
import { cutCues, readCues, writeCues, type Cue } from './cues.ts';

const FILE = `WEBVTT - made here

NOTE
What stands here is shown to nobody.

STYLE
::cue { color: white }

first
00:01.000 --> 00:02.500 line:10% align:start
One line,
<i>and another</i>

01:00:03.250 --> 01:00:04.000
Late
`;

const cue = (fromSeconds: number, toSeconds: number, text = 'x'): Cue => ({
  fromSeconds,
  toSeconds,
  settings: '',
  text,
});

describe('cues', () => {
  it('are read from WebVTT, with their names, notes and styles left out', () => {
    expect(readCues(FILE)).toEqual([
      { fromSeconds: 1, toSeconds: 2.5, settings: 'line:10% align:start', text: 'One line,\n<i>and another</i>' },
      { fromSeconds: 3603.25, toSeconds: 3604, settings: '', text: 'Late' },
    ]);
    expect(readCues(FILE.replaceAll('\n', '\r\n'))).toEqual(readCues(FILE));
    expect(readCues('WEBVTT\n')).toEqual([]);
  });

  it('are read back as they were written', () => {
    const text = fc.stringMatching(/^[a-zà-ü,.!?]+( [a-z]+)*(\n[a-z]+)?$/);
    const time = fc.integer({ min: 0, max: 40_000_000 }).map((milliseconds) => milliseconds / 1000);
    const cues = fc.array(fc.record({ fromSeconds: time, toSeconds: time, settings: fc.constant(''), text }));
    fc.assert(
      fc.property(cues, (all) => {
        expect(readCues(writeCues(all))).toEqual(all);
      }),
    );
  });

  it('are cut to a part, and begin and end with it', () => {
    const all = [cue(0, 1), cue(1.5, 3), cue(4, 5), cue(6, 9), cue(9, 10)];
    expect(cutCues(all, 2, 5)).toEqual([cue(0, 1), cue(2, 3), cue(4, 5)]);
    expect(cutCues(all, 0, 100)).toEqual(all);
    expect(cutCues([cue(0, 1, '')], 0, 5)).toEqual([]);
  });
});

describe('the captions of a programme', () => {
  it('are those inside it, and then those beside it', () => {
    const captions = [
      { index: 2, codec: 'subrip', language: 'deu' },
      { index: 3, codec: 'hdmv_pgs_subtitle', language: 'deu' },
      { index: 4, codec: 'mov_text', language: null },
    ];
    expect(captionTracks({ captions, sidecars: ['talk.srt', 'talk.stl'] })).toEqual([
      { label: 'German', mark: 'deu', from: { stream: 2 }, language: 'deu', isText: true },
      { label: 'German, 2', mark: 'deu-2', from: { stream: 3 }, language: 'deu', isText: false },
      { label: 'captions 3', mark: '3', from: { stream: 4 }, language: null, isText: true },
      { label: 'talk.srt', mark: '', from: { file: 'talk.srt' }, language: null, isText: true },
      { label: 'talk.stl', mark: '2', from: { file: 'talk.stl' }, language: null, isText: false },
    ]);
  });

  it('name a language, also where a file has none that is known', () => {
    expect(['deu', 'fra', 'not a code'].map(nameLanguage)).toEqual(['German', 'French', 'not a code']);
  });
});
