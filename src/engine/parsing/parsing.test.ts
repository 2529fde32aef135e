import { describe, expect, it } from 'vitest';
import { createInspectionReader } from './inspection.ts';
import { createPacketTally, type ListedPacket } from './packets.ts';
import { findVideoStream, parseProbe } from './probe.ts';
import { readReport, type ProbeReport, type ProbeStream } from './report.ts';
import { createProgressReader, type EngineProgress } from './progress.ts';
import { explainEncodeFailure, explainReadFailure } from './readFailure.ts';
import { measureTiming } from './timing.ts';

const PICTURE: ProbeStream = {
  index: 0,
  codec_type: 'video',
  codec_name: 'h264',
  profile: 'High',
  width: 1280,
  height: 720,
  pix_fmt: 'yuv420p',
  r_frame_rate: '25/1',
  avg_frame_rate: '25/1',
  field_order: 'progressive',
};

/** A packet as the engine lists it. */
function packet(stream: number, time: string, flags: string, size: number, kind = 'audio'): ListedPacket {
  const times = time === 'N/A' ? {} : { pts_time: time };
  return {
    codec_type: kind,
    stream_index: stream,
    ...times,
    duration_time: kind === 'video' ? '0.04' : '0.02',
    size: String(size),
    flags,
  };
}

/** A report whose packets lie at the given times. */
function factsAt(times: readonly number[], stream: Partial<ProbeStream> = {}, format: ProbeReport['format'] = {}) {
  const reader = createPacketTally();
  times.forEach((time) => reader.add(packet(0, String(time), 'K_', 1000, 'video')));
  const report: ProbeReport = {
    format: { format_name: 'mov,mp4,m4a', start_time: '0.0', ...format },
    streams: [{ ...PICTURE, ...stream }],
  };
  return parseProbe(report, 123_456, reader.tallies()).facts;
}

const every = (seconds: number, count = 50, start = 0) =>
  Array.from({ length: count }, (_, index) => start + index * seconds);

describe('facts of a file', () => {
  it('count frames and length from the packets', () => {
    expect(factsAt(every(0.04))).toMatchObject({
      frameCount: 50,
      durationSeconds: 2,
      frameRate: { num: 25, den: 1 },
      bytes: 123_456,
    });
  });

  it('see through millisecond stamps to the trade’s fraction', () => {
    const stamps = every(1001 / 60000, 120).map((time) => Math.round(time * 1000) / 1000);
    const facts = factsAt(stamps, { r_frame_rate: '19001/317', avg_frame_rate: '19001/317' });
    expect(facts.frameRate).toEqual({ num: 60000, den: 1001 });
    expect(facts.video?.constantRate).toBe(true);
  });

  it('call a rate variable when frames leave their places, whatever the header says', () => {
    const facts = factsAt([...every(0.04, 20), ...every(0.1, 20, 0.9)]);
    expect(facts.video).toMatchObject({ constantRate: false, seeksExactly: true });
    expect(facts.durationSeconds).toBeCloseTo(2.84, 6);
  });

  it('call a rate variable when one frame of five was dropped, though the others lie near the places of a slower one', () => {
    const kept = every(1 / 24, 121).filter((_, index) => index % 5 !== 3);
    const facts = factsAt(kept, { r_frame_rate: '24/1', avg_frame_rate: '96/5' });
    expect(facts.video?.constantRate).toBe(false);
    expect(facts.frameCount).toBe(kept.length);
  });

  it('call a rate of the trade constant where its frames were brought to the places of another', () => {
    const shown = every(1 / 25, 75).map((time) => Math.round((time * 30000) / 1001) * (1001 / 30000));
    expect(factsAt(shown, { r_frame_rate: '30000/1001', avg_frame_rate: '30000/1001' })).toMatchObject({
      frameRate: { num: 25, den: 1 },
      video: { constantRate: true },
    });
  });

  it('take the rate that frames have over one of the trade that lies near, where there are few of them', () => {
    const facts = factsAt(every(1 / 27, 6), { r_frame_rate: '1000/1', avg_frame_rate: '1000/1' });
    expect(facts.frameRate).toEqual({ num: 27, den: 1 });
    expect(facts.video?.constantRate).toBe(true);
  });

  it('call a rate constant when its frames come as a display shows them, two and three fields long', () => {
    const shown = every(1 / 24, 120).map((time) => Math.round(time * 60) / 60);
    expect(factsAt(shown, { r_frame_rate: '60/1', avg_frame_rate: '24/1' }).video?.constantRate).toBe(true);
  });

  it('sort stamps that come in decoding order', () => {
    expect(factsAt([0, 0.12, 0.04, 0.08, 0.16]).video?.constantRate).toBe(true);
  });

  it('open a transport stream early, and count through a programme stream, a varying rate or one with few times', () => {
    const seekingOf = (times: readonly number[], format: string) => {
      const { video } = factsAt(times, {}, { format_name: format, start_time: '0.0' });
      return [video!.seeksExactly, video!.seekLeadSeconds];
    };
    // Keyframes are a frame apart here; two seconds more are for where guesswork lands.
    expect(seekingOf(every(0.04), 'mpegts')).toEqual([true, 2.04]);
    expect(seekingOf(every(0.04), 'mpeg')).toEqual([false, 0]);
    expect(seekingOf([...every(0.04, 20), ...every(0.1, 20, 0.9)], 'mpegts')).toEqual([false, 0]);
    expect(seekingOf([...every(0.04, 20), NaN, ...every(0.04, 20, 0.84)], 'mpegts')).toEqual([false, 0]);
    expect(seekingOf(every(0.04), 'mov,mp4')).toEqual([true, 0]);
  });

  it('count the start of the picture from the file’s earliest stream', () => {
    expect(
      factsAt(every(0.04, 10, 1.5), {}, { format_name: 'mov', start_time: '1.4' }).video?.startSeconds,
    ).toBeCloseTo(0.1, 9);
  });

  it('turn an upright picture’s sides and its pixel aspect', () => {
    const facts = factsAt(every(0.04), { sample_aspect_ratio: '64:45', side_data_list: [{ rotation: -90 }] });
    expect([facts.width, facts.height]).toEqual([720, 1280]);
    expect(facts.video).toMatchObject({ rotation: 90, pixelAspect: { num: 45, den: 64 } });
  });

  it.each([
    ['yuv420p', undefined, 8, null],
    ['yuvj420p', undefined, 8, 'full'],
    ['yuv422p10le', '10', 10, null],
    ['gbrp', undefined, 8, 'full'],
  ])('read %s', (pix_fmt, raw, bitDepth, range) => {
    const facts = factsAt(every(0.04), { pix_fmt, ...(raw ? { bits_per_raw_sample: raw } : {}) });
    expect(facts.video).toMatchObject({ bitDepth, colour: { range } });
  });

  it('say “not tagged” for every way of saying nothing', () => {
    const facts = factsAt(every(0.04), {
      color_space: 'unknown',
      color_primaries: 'reserved',
      color_transfer: 'bt709',
    });
    expect(facts.video?.colour).toEqual({ matrix: null, primaries: null, transfer: 'bt709', range: null });
  });

  it('take cover art for no picture', () => {
    const cover: ProbeStream = { ...PICTURE, disposition: { attached_pic: 1 } };
    expect(findVideoStream({ streams: [cover] })).toBeNull();
    expect(findVideoStream({ streams: [cover, { ...PICTURE, index: 3 }] })?.index).toBe(3);
  });
});

describe('packets', () => {
  it('weigh all and count only what is shown', () => {
    const reader = createPacketTally();
    reader.add(packet(1, '-0.02', 'KD', 300));
    reader.add(packet(1, '0', 'K_', 310));
    reader.add(packet(1, '0.02', '__', 290));
    expect(reader.tallies().get(1)).toMatchObject({
      packets: 2,
      bytes: 900,
      keyframes: 1,
      firstSeconds: 0,
      endSeconds: 0.04,
      times: [],
    });
  });

  it('without times have none', () => {
    const reader = createPacketTally();
    reader.add(packet(0, 'N/A', 'K_', 100, 'video'));
    expect(reader.tallies().get(0)).toMatchObject({ packets: 1, firstSeconds: null, endSeconds: null });
  });
});

describe('a report on a file', () => {
  it('is read line by line, packets apart from the rest', () => {
    const reader = createInspectionReader();
    const lines = [
      '{',
      '    "packets": [',
      '        { "codec_type": "video", "stream_index": 0, "pts_time": "0.000000", "duration_time": "0.040000", "size": "100", "flags": "K_" },',
      '        { "codec_type": "video", "stream_index": 0, "pts_time": "0.600000", "duration_time": "0.040000", "size": "50", "flags": "__",',
      '            "side_data_list": [',
      '                { "side_data_type": "Skip Samples" }',
      '            ] }',
      '    ],',
      '    "streams": [',
      '        { "index": 0, "codec_name": "h264", "codec_type": "video" }',
      '    ],',
      '    "format": { "format_name": "mov" }',
      '}',
    ];
    lines.forEach(reader.read);
    const { report, tallies } = reader.finish();
    expect(report).toEqual({
      streams: [{ index: 0, codec_name: 'h264', codec_type: 'video' }],
      format: { format_name: 'mov' },
    });
    expect(tallies.get(0)).toMatchObject({ packets: 2, bytes: 150, bytesByStep: [100, 50], keyframeTimes: [0] });
  });
});

describe('keyframes', () => {
  it('have a least, a mean and a greatest distance in frames', () => {
    const reader = createPacketTally();
    every(0.04, 30).forEach((time, frame) => {
      reader.add(packet(0, String(time), [0, 10, 25].includes(frame) ? 'K_' : '__', 100, 'video'));
    });
    const facts = parseProbe({ format: { format_name: 'mov' }, streams: [PICTURE] }, 1, reader.tallies()).facts;
    expect(facts.video?.keyframeDistance).toEqual({ least: 10, mean: 12.5, most: 15 });
  });
});

describe('progress', () => {
  it('is told once a block, with microseconds as seconds', () => {
    const reports: EngineProgress[] = [];
    const read = createProgressReader((report) => reports.push(report));
    'frame=12\nfps=48.5\nout_time_us=480000\nout_time_ms=480000\nprogress=continue\nframe=20\nfps=N/A\nout_time_us=N/A\nprogress=end'
      .split('\n')
      .forEach(read);
    expect(reports).toEqual([
      { frame: 12, framesPerSecond: 48.5, outSeconds: 0.48 },
      { frame: 20, framesPerSecond: null, outSeconds: null },
    ]);
  });
});

describe('failures are explained', () => {
  it('too little memory by its own code', () => {
    expect(explainEncodeFailure('[h264 @ 0x1] Cannot allocate memory').code).toBe('memory-limit');
    const thread = 'Failed to inject frame into filter network: Resource temporarily unavailable';
    expect(explainEncodeFailure(thread).code).toBe('memory-limit');
    expect(explainReadFailure('', 'Cannot allocate memory').code).toBe('memory-limit');
  });

  it.each([
    ['#EXTM3U\n', '', 'file-is-script'],
    ['\uFEFF<?xml version', '', 'file-is-script'],
    ['anything', 'Format not on whitelist', 'file-is-script'],
    ['wvpk\0\x01', 'Format not on whitelist', 'file-not-media'],
    // The marks of PNG (ISO/IEC 15948, 5.2), JPEG (ISO/IEC 10918-1, B.1.1.3) and WebP (RFC 9649, 2.4), from memory.
    ['\x89PNG\r\n\x1a\n', 'Format not on whitelist', 'file-is-picture'],
    ['\xff\xd8\xff\xe0', '', 'file-is-picture'],
    ['RIFF\x10\0\0\0WEBPVP8 ', '', 'file-is-picture'],
    ['\0\0\0\u0020ftypisom', 'moov atom not found', 'file-cut-off'],
    ['Dear reader', 'moov atom not found', 'file-not-media'],
    ['', 'Permission denied', 'file-unreadable'],
  ])('%j with %j', (head, log, code) => {
    expect(explainReadFailure(head, log).code).toBe(code);
  });

  it.each([
    ['av_interleaved_write_frame(): No space left on device', 'destination-full'],
    ['Read-only file system', 'destination-read-only'],
    ['[libx264 @ 0x1] requested bitrate is too low. estimated minimum is 151 kbps', 'rate-too-low'],
    ['x: No such file or directory', 'destination-gone'],
    ['something else', 'engine-failed'],
  ])('%j', (log, code) => {
    expect(explainEncodeFailure(log).code).toBe(code);
  });
});

describe('a picture whose frames take no time', () => {
  it('is refused as damaged, not met as an accident', () => {
    const tally = {
      packets: 3,
      bytes: 300,
      keyframes: 1,
      firstSeconds: 0,
      endSeconds: 0,
      times: [0, 0, 0],
      keyframeTimes: [0],
      cutTimes: [0],
      beginsAnew: false,
      bytesByStep: [300],
    };
    const measure = () => measureTiming({ index: 0, r_frame_rate: '25/1' }, tally);
    expect(measure).toThrow(expect.objectContaining({ name: 'EngineError', code: 'file-absurd' }) as Error);
  });
});

describe('texts of a report', () => {
  it('are cut, and hold nothing that cannot be stored', () => {
    const report = readReport(
      JSON.stringify({ format: { tags: { title: `a\0b${'ä'.repeat(900)}`, [`k\ud800`]: 'half \udc00' } } }),
    );
    const tags = report.format?.tags ?? {};
    expect(Object.keys(tags)).toEqual(['title', 'k\ufffd']);
    expect(tags['title']).toHaveLength(501);
    expect(tags['title']).toMatch(/^a\ufffdbä+…$/);
    expect(tags['k\ufffd']).toBe('half \ufffd');
  });
});
