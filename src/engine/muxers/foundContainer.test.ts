import { describe, expect, it } from 'vitest';
import { nameFoundContainer } from './foundContainer.ts';

describe('the container that a file came in', () => {
  it.each([
    ['mov,mp4,m4a,3gp,3g2,mj2', 'isom', ['h264', 'aac'], 'MP4'],
    ['mov,mp4,m4a,3gp,3g2,mj2', 'M4A', ['aac'], 'MP4'],
    ['mov,mp4,m4a,3gp,3g2,mj2', null, ['mjpeg'], 'MP4'],
    ['mov,mp4,m4a,3gp,3g2,mj2', 'qt', ['prores'], 'MOV'],
    ['matroska,webm', null, ['vp9', 'opus', 'webvtt'], 'WebM'],
    ['matroska,webm', null, ['vp8', 'vorbis'], 'WebM'],
    ['matroska,webm', null, ['vp9', 'aac'], 'Matroska'],
    ['matroska,webm', null, ['hevc'], 'Matroska'],
    ['wav', null, ['pcm_s16le'], 'WAV'],
    ['flac', null, ['flac'], 'FLAC'],
    ['mp3', null, ['mp3'], 'MP3'],
    ['ogg', null, ['opus'], 'Ogg'],
    ['aiff', null, ['pcm_s16be'], 'AIFF'],
    ['mpegts', null, ['h264'], 'MPEG transport stream'],
    ['mpeg', null, ['mpeg2video'], 'MPEG program stream'],
    ['mxf', null, ['mpeg2video'], 'MXF'],
    ['avi', null, ['dvvideo'], 'AVI'],
    ['nut', null, ['ffv1'], 'nut'],
  ])('%s, brand %s, of %j: %s', (family, brand, codecs, name) => {
    expect(nameFoundContainer({ family, brand, codecs })).toBe(name);
  });
});
