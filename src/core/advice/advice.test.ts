import { describe, expect, it } from 'vitest';
import { rational } from '../timing/rational.ts';
import { factsOf } from '../../testing/facts.ts';
import { CLEAN, subjectOf as subject } from '../../testing/subject.ts';
import { adviseOnProgramme } from './adviseOnProgramme.ts';
import type { Subject } from './advisory.ts';

const codesOf = (of: Subject) => adviseOnProgramme(of).map(({ code }) => code);

const tagged = (matrix: string | null, transfer = 'bt709') => ({
  colour: { primaries: 'bt709', transfer, matrix, range: 'limited' as const },
});

describe('a sound programme', () => {
  it('has nothing to be told about', () => {
    expect(adviseOnProgramme(subject())).toEqual([]);
  });

  it('is judged by its facts alone before the analysis', () => {
    expect(codesOf({ ...subject({}, {}, { interlaced: true, fieldOrder: 'bottom-first' }), findings: null })).toEqual([
      'interlaced',
    ]);
  });
});

describe('each fault is told, and only it', () => {
  const track = factsOf().audio[0]!;
  it.each<readonly [code: string, of: Subject]>([
    ['damaged', subject({ damaged: [{ inFrame: 40, outFrame: 44 }] })],
    ['bars', subject({ bars: { top: 138, bottom: 138, left: 0, right: 0 } })],
    ['variable-rate', subject({}, {}, { constantRate: false })],
    ['rounded-rate', subject({}, { frameRate: rational(30000, 1001) }, { claimedRate: rational(2997, 100) })],
    ['pixels-not-square', subject({}, {}, { pixelAspect: rational(64, 45) })],
    ['rotated-by-tag', subject({}, {}, { rotation: 90 })],
    ['odd-frame-size', subject({}, { width: 1919 })],
    ['thin-source', subject({}, {}, { bitsPerSecond: 1_000_000 })],
    ['high-dynamic-range', subject({}, {}, tagged('bt2020nc', 'smpte2084'))],
    ['colour-tag-unusual', subject({}, {}, tagged('smpte170m'))],
    ['colour-tag-unusual', subject({}, { width: 720, height: 576 }, tagged('bt709'))],
    ['colour-not-tagged', subject({}, {}, tagged(null))],
    ['full-range', subject({}, {}, { colour: { ...tagged('bt709').colour, range: 'full' } })],
    ['deep-colour', subject({}, {}, { bitDepth: 10 })],
    ['black-ends', subject({ black: [{ inFrame: 0, outFrame: 30 }] })],
    ['frozen', subject({ frozen: [{ inFrame: 100, outFrame: 200 }] })],
    ['already-small', subject({}, { bytes: 15_000_000 })],
    ['sound-silent', subject({ loudness: null, channels: { ...CLEAN.channels!, peaks: [-99, -99], silent: [0, 1] } })],
    ['sound-missing', subject({}, { audio: [{ ...track, startSeconds: 1, durationSeconds: 59 }] })],
    ['sound-missing', subject({}, { audio: [{ ...track, durationSeconds: 58 }] })],
    ['sound-beyond', subject({}, { audio: [{ ...track, durationSeconds: 63 }] })],
    ['sound-beyond', subject({}, { audio: [{ ...track, durationSeconds: 60.8 }] }, { startSeconds: 0.8 })],
    ['channel-empty', subject({ channels: { ...CLEAN.channels!, peaks: [-3, -99], silent: [1] } })],
    ['out-of-phase', subject({ channels: { ...CLEAN.channels!, outOfPhase: true } })],
    ['channels-identical', subject({ channels: { ...CLEAN.channels!, identical: true } })],
    ['loudness-far', subject({ loudness: { ...CLEAN.loudness!, integratedLufs: -23 } })],
    ['true-peak-high', subject({ loudness: { ...CLEAN.loudness!, truePeakDbtp: -0.4 } })],
    ['more-sound-tracks', subject({}, { audio: [track, { ...track, index: 2, language: 'deu' }] })],
    ['tracks-are-channels', subject({}, { audio: [1, 2].map((index) => ({ ...track, index, channels: 1 })) })],
    ['captions-left-out', subject({}, { captions: [{ index: 3, codec: 'subrip', language: null }] })],
    ['scan-tag-wrong', subject({}, {}, { interlaced: true })],
  ])('%s', (code, of) => {
    expect(codesOf(of)).toEqual([code]);
  });

  it('colour of HD in small pictures made for the web, which is usual, is none', () => {
    const { colour } = tagged('bt709');
    for (const [width, height] of [
      [640, 360],
      [854, 480],
      [426, 240],
    ] as const) {
      expect(codesOf(subject({}, { width, height }, { colour }))).not.toContain('colour-tag-unusual');
    }
  });

  it('where sound and picture do not last alike, in seconds at either end', () => {
    const told = (audio: Partial<typeof track>) =>
      adviseOnProgramme(subject({}, { audio: [{ ...track, ...audio }] })).map(({ message }) => message);
    expect(told({ startSeconds: 1.2, durationSeconds: 50 })).toEqual([
      'There is a picture without sound for 1.2 s at the beginning and for 8.8 s at the end.',
    ]);
    expect(told({ durationSeconds: 63 })).toEqual([
      'There is sound without a picture for 3.0 s at the end; renditions leave it out.',
    ]);
    expect(told({ startSeconds: 0.02, durationSeconds: 60.02 })).toEqual([]);
  });

  it('bars and fields, each with what takes it away', () => {
    const bars = { top: 138, bottom: 138, left: 0, right: 0 };
    const fixes = adviseOnProgramme(subject({ bars, scan: 'bottom-first' })).map(({ fix }) => fix);
    expect(fixes).toContainEqual({ kind: 'crop', label: 'Crop the bars off', crop: bars });
    expect(fixes).toContainEqual({ kind: 'deinterlace', label: 'Deinterlace it', fields: 'bottom-first' });
  });

  it('a small web file, to be copied unless it is damaged or no web container takes its streams', () => {
    const aac = factsOf().audio.map((track) => ({ ...track, codec: 'aac' }));
    const fixOf = (of: Subject) => adviseOnProgramme(of).find(({ code }) => code === 'already-small')?.fix;
    const small = { bytes: 20_000_000, audio: aac };
    expect(fixOf(subject({}, small))).toMatchObject({ kind: 'copy' });
    expect(fixOf(subject({ damaged: [{ inFrame: 3, outFrame: 9 }] }, small))).toBeUndefined();
    expect(fixOf(subject({}, { bytes: 20_000_000 }))).toBeUndefined();
  });

  it('interlaced, whatever the tag says', () => {
    expect(codesOf(subject({ scan: 'top-first' }))).toEqual(['interlaced', 'scan-tag-wrong']);
    expect(codesOf(subject({ scan: 'mixed' }, {}, { interlaced: true }))).toEqual(['interlaced']);
  });
});

describe('the limits of what is told', () => {
  it.each<readonly [string, Subject]>([
    [
      '29.97 as the standard writes it',
      subject({}, { frameRate: rational(30000, 1001) }, { claimedRate: rational(30000, 1001) }),
    ],
    ['SD tagged as SD', subject({}, { width: 720, height: 576 }, tagged('bt470bg'))],
    ['peaks at −1 dBTP', subject({ loudness: { ...CLEAN.loudness!, truePeakDbtp: -1 } })],
    ['a heavy codec at few bits a pixel', subject({}, {}, { codec: 'mpeg2video', bitsPerSecond: 1_000_000 })],
    ['black inside', subject({ black: [{ inFrame: 400, outFrame: 450 }] })],
    ['RGB, which is full by nature', subject({}, {}, { colour: { ...tagged('gbr').colour, range: 'full' } })],
  ])('%s is no fault', (_, of) => {
    expect(codesOf(of)).toEqual([]);
  });
});

describe('fixes', () => {
  it('trim black at both ends as far as nothing is heard', () => {
    const silent = (from: number, to: number) =>
      Array.from({ length: 600 }, (_, step) => (step >= from && step < to ? -12 : -99));
    const of = subject({
      black: [
        { inFrame: 0, outFrame: 49 },
        { inFrame: 1450, outFrame: 1499 },
      ],
      // Heard from 1.0 s, half-way through the black at the head, to the end of the picture.
      sound: { stepSeconds: 0.1, peaks: silent(10, 580), momentary: [] },
    });
    expect(adviseOnProgramme(of)[0]?.fix).toMatchObject({ kind: 'portion', portion: { inFrame: 25, outFrame: 1449 } });
  });

  it('offer no portion where sound runs through the black', () => {
    expect(adviseOnProgramme(subject({ black: [{ inFrame: 0, outFrame: 49 }] }))[0]?.fix).toBeUndefined();
  });

  it('make two like channels one', () => {
    const [advisory] = adviseOnProgramme(subject({ channels: { ...CLEAN.channels!, identical: true } }));
    expect(advisory?.fix).toMatchObject({ kind: 'sound', channels: 'mono' });
  });

  it('come with the serious first', () => {
    const of = subject({ damaged: [{ inFrame: 0, outFrame: 0 }] }, { width: 1919 }, { constantRate: false });
    expect(adviseOnProgramme(of).map(({ severity }) => severity)).toEqual(['serious', 'caution', 'note']);
  });
});
