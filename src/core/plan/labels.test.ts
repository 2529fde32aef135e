import { describe, expect, it } from 'vitest';
import { factsOf } from '../../testing/facts.ts';
import type { Container } from '../container/names.ts';
import { STARTING_RECIPE, type MetadataChoice } from '../recipe/recipe.ts';
import type { AudioFacts, ProgrammeFacts } from '../programme/facts.ts';
import type { SoundStream, SourceSpan } from './encodePlan.ts';
import { labelsOf } from './labels.ts';

const asked = (container: Container, captions: 'beside' | 'embed' = 'beside') => ({
  container,
  file: { ...STARTING_RECIPE.file, captions },
});

const NTSC = { num: 30000, den: 1001 };

const CHAPTERS = [
  { startSeconds: 0, endSeconds: 60, title: 'Opening' },
  { startSeconds: 60, endSeconds: 120, title: 'Middle' },
  { startSeconds: 120, endSeconds: 180, title: 'End' },
];

/** Three minutes with a track of German, one of English, one whose writer wrote a word. */
function told(): ProgrammeFacts {
  const facts = factsOf();
  const track = (index: number, language: string, title: string | null): AudioFacts => ({
    ...facts.audio[0]!,
    ...{ index, language, title },
  });
  return {
    ...facts,
    ...{ durationSeconds: 180, frameCount: 5395, frameRate: NTSC, chapters: CHAPTERS, startTimecode: '01:00:00;00' },
    audio: [track(1, 'deu', null), track(2, 'eng', 'Commentary'), track(3, 'English', null)],
  };
}

const spanOf = (startSeconds: number, seconds: number): SourceSpan => ({
  ...{ startSeconds, seconds },
  inFrame: Math.round((startSeconds * NTSC.num) / NTSC.den),
  frameCount: Math.round((seconds * NTSC.num) / NTSC.den),
});
const WHOLE = spanOf(0, 180);

/** Sounds, each of the streams given. */
const soundsOf = (...streams: number[][]) =>
  streams.map((from) => ({ from: from.map((streamIndex) => ({ streamIndex })) }) as unknown as SoundStream);
const at = (frameRate: { num: number; den: number }) => ({ out: { frameRate } }) as never;

describe('what goes along of what a master tells', () => {
  it('is all of it where a whole goes into a container that holds it', () => {
    const labels = labelsOf(told(), asked('matroska'), { span: WHOLE, picture: at(NTSC), sounds: soundsOf([1], [2]) });
    expect(labels).toEqual({
      chapters: CHAPTERS,
      timecode: '01:00:00;00',
      sounds: [
        { language: 'deu', title: null },
        { language: 'eng', title: 'Commentary' },
      ],
      captions: [],
      tags: {},
    });
  });

  it('is cut to the span and counted from its beginning; what little is left of a chapter is left out', () => {
    const span = spanOf(59.7, 90);
    const labels = labelsOf(told(), asked('mov'), { span, picture: at(NTSC), sounds: [] });
    const cut = labels!.chapters.map(({ startSeconds, endSeconds, title }) => [
      Number(startSeconds.toFixed(3)),
      Number(endSeconds.toFixed(3)),
      title,
    ]);
    expect(cut).toEqual([
      [0.3, 60.3, 'Middle'],
      [60.3, 90, 'End'],
    ]);
    // SMPTE ST 12-1: 1,789 frames on, none of them dropped in the first minute.
    expect(labels!.timecode).toBe('01:00:59;19');
  });

  it('tells of itself what is asked for and the container has a place for', () => {
    const facts = factsOf({ metadata: { TITLE: 'Dusk', description: 'Over the hill', encoder: 'x' } });
    const tagsIn = (container: Container, metadata: MetadataChoice) =>
      labelsOf(
        facts,
        { container, file: { ...STARTING_RECIPE.file, metadata } },
        { span: WHOLE, picture: null, sounds: [] },
      )?.tags ?? null;
    expect(tagsIn('mp4', 'strip')).toBeNull();
    expect(tagsIn('mp4', 'keep')).toEqual({ title: 'Dusk', description: 'Over the hill' });
    expect(tagsIn('mov', 'keep')).toEqual({ title: 'Dusk' });
    expect(tagsIn('aiff', { copyright: ' The hill\nobservatory ', artist: 'Nobody', title: '' })).toEqual({
      copyright: 'The hill observatory',
    });
    expect(tagsIn('aiff', { artist: 'Nobody' })).toBeNull();
  });

  it('has one title in Ogg, which is the file’s where it is told', () => {
    const titles = (metadata: MetadataChoice) => {
      const file = { ...STARTING_RECIPE.file, metadata };
      const labels = labelsOf(
        told(),
        { container: 'ogg', file },
        { span: WHOLE, picture: null, sounds: soundsOf([2]) },
      )!;
      return [labels.tags.title, labels.sounds[0]!.title];
    };
    expect(titles('strip')).toEqual([undefined, 'Commentary']);
    expect(titles({ title: 'Dusk' })).toEqual(['Dusk', null]);
  });

  it('is a row of chapters that every container holds, in titles of one line', () => {
    const told = (startSeconds: number, endSeconds: number, title: string) => ({ startSeconds, endSeconds, title });
    const chapters = [
      told(0, 100, ' The first\n half '),
      told(0, 20, 'within it'),
      told(40, 100, 'x'.repeat(300)),
      told(100, 170, '\u0007'),
    ];
    const labels = labelsOf(factsOf({ chapters }), asked('mp4'), { span: WHOLE, picture: at(NTSC), sounds: [] });
    expect(labels!.chapters).toEqual([
      told(0, 40, 'The first half'),
      told(40, 100, `${'x'.repeat(79)}…`),
      told(100, 170, 'Chapter 4'),
    ]);
    const many = Array.from({ length: 300 }, (_, index) => told(index / 2, index / 2 + 0.5, 'x'));
    const most = labelsOf(factsOf({ chapters: many }), asked('webm'), { span: WHOLE, picture: null, sounds: [] });
    expect(most!.chapters.length).toBe(255);
  });

  it('leaves a title out of MP4 that reads as a word of its writer', () => {
    const facts = { ...told(), audio: [{ ...told().audio[0]!, language: 'eng', title: 'Media mix' }] };
    const titleIn = (container: Container, title: string) =>
      labelsOf({ ...facts, audio: [{ ...facts.audio[0]!, title }] }, asked(container), {
        ...{ span: WHOLE, picture: null, sounds: soundsOf([1]) },
      })!.sounds[0]!.title;
    expect([titleIn('mp4', 'Media mix'), titleIn('matroska', 'Media mix')]).toEqual([null, 'Media mix']);
    expect(titleIn('mp4', '解説')).toBe('解説');
  });

  it('goes by the clock of the picture, which may begin later than its file', () => {
    const facts = told();
    const later = { ...facts, video: { ...facts.video!, startSeconds: 0.5 } };
    const labels = labelsOf(later, asked('mp4'), { span: WHOLE, picture: at(NTSC), sounds: [] });
    expect(labels!.chapters.map(({ startSeconds }) => startSeconds)).toEqual([0, 59.5, 119.5]);
  });

  it.each([
    ['another frame rate', 'mov', told(), { num: 25, den: 1 }],
    ['a container without one', 'mp4', told(), NTSC],
    ['a master without one', 'mov', { ...told(), startTimecode: null }, NTSC],
    ['frames with times of their own', 'mov', { ...told(), video: { ...told().video!, constantRate: false } }, NTSC],
  ] as const)('has no timecode with %s', (_, container, facts, rate) => {
    const labels = labelsOf(facts, asked(container), { span: WHOLE, picture: at(rate), sounds: [] });
    expect(labels!.timecode).toBeNull();
  });

  it('names languages as the container does, and none that is no language', () => {
    const sounds = soundsOf([1], [2], [3]);
    const inMov = labelsOf(told(), asked('mov'), { span: WHOLE, picture: null, sounds });
    expect(inMov!.sounds.map(({ language }) => language)).toEqual(['ger', 'eng', null]);
    const facts = told();
    const welsh = { ...facts, audio: [{ ...facts.audio[0]!, language: 'cym' }] };
    const labels = labelsOf(welsh, asked('mov'), { span: WHOLE, picture: null, sounds: soundsOf([1]) });
    expect(labels!.sounds).toEqual([{ language: null, title: null }]);
  });

  it('says of tracks that become one what all of them say', () => {
    const of = (...streams: number[]) =>
      labelsOf(told(), asked('mp4'), { span: WHOLE, picture: null, sounds: soundsOf(streams) })!.sounds[0];
    expect(of(1, 2)).toEqual({ language: null, title: null });
    expect(of(2, 2)).toEqual({ language: 'eng', title: null });
  });

  it('is captions that are text where they are asked for, and the container holds them beside a picture', () => {
    const captions = [
      { index: 4, codec: 'hdmv_pgs_subtitle', language: 'deu' },
      { index: 5, codec: 'subrip', language: 'deu' },
    ];
    const facts = { ...told(), captions, sidecars: ['mill.srt'] };
    const labelled = { span: WHOLE, picture: at(NTSC), sounds: [] };
    const of = (container: Container, picture: typeof labelled.picture | null = labelled.picture) =>
      labelsOf(facts, asked(container, 'embed'), { ...labelled, picture })?.captions ?? [];
    expect(of('webm').map(({ number, language }) => [number, language])).toEqual([
      [1, 'deu'],
      [2, null],
    ]);
    expect(of('mov')[0]?.language).toBe('ger');
    expect(of('webm', null)).toEqual([]);
    expect(of('m4a')).toEqual([]);
    expect(labelsOf(facts, asked('webm'), labelled)!.captions).toEqual([]);
  });

  it('is nothing where a container tells nothing, or a master', () => {
    const labelled = { span: WHOLE, picture: at(NTSC), sounds: soundsOf([1]) };
    expect(labelsOf(told(), asked('wav'), labelled)).toBeNull();
    const mute = { ...told(), chapters: [], startTimecode: null, audio: [{ ...told().audio[0]!, language: null }] };
    expect(labelsOf(mute, asked('mov'), labelled)).toBeNull();
  });
});
