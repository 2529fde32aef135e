import { chmodSync, writeFileSync } from 'node:fs';
import path from 'node:path';
import { describe, expect, it } from 'vitest';
import { createEngine } from '../../src/engine/createEngine.ts';
import { makeFolder } from '../support/footage.ts';

/** An engine that lists three hardware encoders, of which one gives frames, and another where they are brought to its device. */
function pretend(): string {
  const file = path.join(makeFolder(), 'ffmpeg');
  const list =
    ' V..... h264_nvenc  NVENC H.264\\n V..... hevc_vaapi  VAAPI HEVC\\n V..... h264_vaapi  VAAPI H.264\\n V..... libx264  x264\\n';
  const script = `#!/bin/sh\ncase "$*" in *-encoders*) printf '${list}';; *h264_nvenc*) exit 0;; *-vaapi_device*hwupload*h264_vaapi*) exit 0;; *) exit 1;; esac\n`;
  writeFileSync(file, script);
  chmodSync(file, 0o755);
  return file;
}

describe('encoders in hardware', () => {
  it('are told with whether frames came out of them, which being listed does not say', async () => {
    const engine = createEngine({ ffmpeg: pretend(), ffprobe: 'ffprobe' });
    expect(await engine.probeHardware()).toEqual([
      { codec: 'h264', kind: 'nvenc', works: true },
      { codec: 'hevc', kind: 'vaapi', works: false },
      { codec: 'h264', kind: 'vaapi', works: true },
    ]);
  });

  it('are none where there is no engine', async () => {
    expect(await createEngine({ ffmpeg: '/nowhere/ffmpeg', ffprobe: '/nowhere/ffprobe' }).probeHardware()).toEqual([]);
  });
});
