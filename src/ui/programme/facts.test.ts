import { describe, expect, it } from 'vitest';
import type { AnalysisView, ProgrammeView } from '../../contract/views.ts';
import type { ProgrammeFacts } from '../../core/programme/facts.ts';
import { rational } from '../../core/timing/rational.ts';
import { factsOf } from '../../testing/facts.ts';
import { describeProgramme } from './describeProgramme.ts';
import { factsAsText, listFacts } from './listFacts.ts';

function viewOf(changes: Partial<ProgrammeFacts> = {}, video: Parameters<typeof factsOf>[1] = {}): ProgrammeView {
  const own = { id: 'p', path: '/media/Dusk.mov', name: 'Dusk.mov', state: 'ready', master: 'there' } as const;
  return { ...factsOf(changes, video), ...own, addedAt: '2026-10-02T20:00:00Z', openingFrame: 0 };
}

/** The value of a fact wherever it stands. */
function factOf(programme: ProgrammeView, name: string, analysis?: Partial<AnalysisView>): string | undefined {
  const groups = listFacts(programme, analysis as AnalysisView | undefined);
  return groups.flatMap(({ facts }) => facts).find(([own]) => own === name)?.[1];
}

describe('a programme in a sentence', () => {
  it('says what it is, in the trade’s words', () => {
    expect(describeProgramme(viewOf())).toBe(
      '1:00 of H.264, 1920 × 1080 at 25 frames a second, with PCM stereo at 48 kHz; 150 MB, 20.0 Mb/s on average.',
    );
  });

  it('says so when the rate varies', () => {
    const phone = viewOf({ frameRate: rational(2997, 100) }, { constantRate: false });
    expect(describeProgramme(phone)).toContain('at a varying rate around 29.97 frames a second');
    expect(factOf(phone, 'Length')).toBe('00:01:00.000, 1,500 frames');
  });

  it('says so when there is no sound or no picture', () => {
    expect(describeProgramme(viewOf({ audio: [] }))).toContain('with no sound');
    expect(describeProgramme(viewOf({ video: null }))).toContain('of sound only, PCM stereo');
  });
});

describe('all facts', () => {
  it('give the length as timecode, drop-frame where it belongs, and in frames', () => {
    expect(factOf(viewOf(), 'Length')).toBe('00:01:00:00, 1,500 frames');
    const ntsc = viewOf({ frameRate: rational(30000, 1001), frameCount: 1800, durationSeconds: 60.06 });
    expect(factOf(ntsc, 'Length')).toBe('00:01:00;02, 1,800 frames');
    expect(factOf({ ...ntsc, startTimecode: '01:00:00:00' }, 'Length')).toBe('00:01:00:00, 1,800 frames');
  });

  it('give the frame rate as a fraction with its usual name, and how it was found', () => {
    expect(factOf(viewOf({ frameRate: rational(60000, 1001) }), 'Frame rate')).toBe(
      '60000/1001 (59.94), constant by its timestamps',
    );
    expect(factOf(viewOf({}, { constantRate: false }), 'Frame rate')).toContain('variable by its timestamps');
  });

  it.each([
    ['Primaries', { colour: { primaries: null, transfer: null, matrix: null, range: null } }, 'not tagged'],
    ['Pixel aspect', { pixelAspect: rational(64, 45) }, '64:45'],
    ['Pixel aspect', {}, 'square'],
    ['Rotation', { rotation: 90 }, '90° clockwise, by tag'],
    ['Scan', { interlaced: true, fieldOrder: 'top-first' }, 'tagged interlaced, top field first'],
    ['Reordering', { reordering: 2 }, '2 frames held back'],
    [
      'Keyframes',
      { keyframeDistance: { least: 10, mean: 12.5, most: 15 } },
      '6; every 10 to 15 frames, 12.5 on average',
    ],
    ['Keyframes', { keyframes: 1500, keyframeDistance: { least: 1, mean: 1, most: 1 } }, '1500; every frame'],
    [
      'HDR metadata',
      { light: { masteringLeast: 0.005, masteringMost: 1000, contentMost: 800, frameAverageMost: null } },
      'mastered at 0.005 to 1000 cd/m², brightest pixel 800 cd/m²',
    ],
  ] as const)('%s of %j is told as %s', (name, video, expected) => {
    expect(factOf(viewOf({}, video), name)).toBe(expected);
  });

  it('tell the picture’s own scan beside its tag once it was looked at', () => {
    expect(factOf(viewOf(), 'Scan', { scan: 'bottom-first' })).toBe(
      'interlaced, bottom field first by its picture; tagged progressive',
    );
  });

  it('add bars, loudness and peaks once they were measured', () => {
    const analysis = {
      bars: { top: 138, bottom: 138, left: 0, right: 0 },
      loudness: { integratedLufs: -16.04, rangeLu: 7.2, truePeakDbtp: -1.26 },
      channels: { peaks: [-3, -3.5], silent: [], identical: false, outOfPhase: false },
    };
    const programme = viewOf();
    expect(factOf(programme, 'Bars', analysis)).toBe('138 top, 138 bottom');
    expect(factOf(programme, 'Loudness', analysis)).toBe('-16.0 LUFS, range 7.2 LU');
    expect(factOf(programme, 'True peak', analysis)).toBe('-1.3 dBTP');
    expect(factOf(programme, 'Channel peaks', analysis)).toBe('-3.0 dBFS, -3.5 dBFS');
    expect(factOf(programme, 'Loudness')).toBeUndefined();
  });

  it('list captions, chapters, metadata and files beside the master', () => {
    const programme = viewOf({
      captions: [{ index: 2, codec: 'mov_text', language: 'deu' }],
      chapters: [{ startSeconds: 65, endSeconds: 70, title: 'The dome' }],
      metadata: { title: 'The Long Dusk' },
      sidecars: ['Dusk.srt'],
    });
    expect(factOf(programme, 'Captions 1')).toBe('mov_text, deu');
    expect(factOf(programme, 'Chapters')).toBe('1:05 The dome');
    expect(factOf(programme, 'title')).toBe('The Long Dusk');
    expect(factOf(programme, 'Caption files')).toBe('Dusk.srt, beside the master');
  });

  it('number the sound tracks where there are several, and copy as text', () => {
    const [track] = factsOf().audio;
    const text = factsAsText(listFacts(viewOf({ audio: [track!, { ...track!, language: 'fra' }] }), undefined));
    expect(text).toContain('Sound 2\n  Codec: PCM');
    expect(text).toContain('  Language: fra');
    expect(text.startsWith('File\n  Container: MP4 or QuickTime\n')).toBe(true);
  });
});
