import { describe, expect, it } from 'vitest';
import { joinList } from '../arguments/join.ts';
import { areAlike, createGroupReader } from './groups.ts';

const PASS = [
  'packet|pts_time=0.000000|dts_time=-0.080000|size=900|flags=K_',
  'packet|pts_time=0.120000|dts_time=-0.040000|size=300|flags=__',
  'packet|pts_time=0.040000|dts_time=0.000000|size=50|flags=__',
  'packet|pts_time=0.160000|dts_time=0.080000|size=800|flags=K_',
  'packet|pts_time=0.200000|dts_time=0.120000|size=200|flags=__',
  'packet|pts_time=0.240000|dts_time=0.160000|size=700|flags=K_',
  'stream|extradata_hash=MD5:b1eb',
];

function listOf(lines: readonly string[]) {
  const reader = createGroupReader();
  lines.forEach(reader.read);
  return reader.finish();
}

describe('groups of pictures', () => {
  it('begin at keyframes and are left between two packets', () => {
    const { groups } = listOf(PASS);
    expect(groups).toEqual([
      { startSeconds: 0, leaveSeconds: 0.04, frames: 3, bytes: 1250 },
      { startSeconds: 0.16, leaveSeconds: expect.closeTo(0.14, 9) as number, frames: 2, bytes: 1000 },
      { startSeconds: 0.24, leaveSeconds: null, frames: 1, bytes: 700 },
    ]);
  });

  it('of another pass stand for these only at the same places and with the same settings', () => {
    const pass = listOf(PASS);
    expect(areAlike(pass, listOf(PASS.map((line) => line.replace('size=300', 'size=280'))))).toBe(true);
    expect(areAlike(pass, listOf(PASS.map((line) => line.replace('b1eb', 'c2fc'))))).toBe(false);
    const elsewhere = PASS.map((line) => line.replace('0.200000', '0.210000').replace('__', 'K_'));
    expect(areAlike(pass, listOf(elsewhere))).toBe(false);
  });

  it('are listed in pieces as long as one file holds, a group by itself from its beginning to its end', () => {
    const { groups } = listOf(PASS);
    const pass = { file: '/a.mp4', holds: 'every-group' } as const;
    const other = { file: '/b.mp4', holds: 'every-group' } as const;
    const alone = { file: '/c.mp4', holds: 'this-group' } as const;
    expect(joinList([pass, pass, other], groups, 'mp4').split('\n')).toEqual([
      'ffconcat version 1.0',
      'file join-0.mp4',
      'outpoint 0.140000',
      'duration 0.240000',
      'file join-1.mp4',
      'inpoint 0.240000',
      '',
    ]);
    expect(joinList([pass, alone, pass], groups, 'mp4').split('\n')).toEqual([
      'ffconcat version 1.0',
      'file join-0.mp4',
      'outpoint 0.040000',
      'duration 0.160000',
      'file join-1.mp4',
      'duration 0.080000',
      'file join-0.mp4',
      'inpoint 0.240000',
      '',
    ]);
  });
});
