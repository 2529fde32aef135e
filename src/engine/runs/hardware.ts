import type { HardwareEncoder } from '../engine.ts';
import { isEngineError } from '../engineError.ts';
import { runProcess } from '../process/runProcess.ts';
import { ASKING_LIMITS, type EnginePaths } from './limits.ts';

/** How hardware encoders are told in the engine's list: `h264_vaapi`, `hevc_nvenc`. */
const NAME = /\b(h264|hevc|vp9|av1)_(nvenc|qsv|vaapi|amf|v4l2m2m|videotoolbox)\b/g;

/**
 * Which hardware encoders the engine knows, and whether each encodes a few frames on this machine: being listed says nothing, since
 * they need a device and its driver.
 */
export async function probeHardware(paths: EnginePaths): Promise<HardwareEncoder[]> {
  const listed = await runProcess({
    ...ASKING_LIMITS,
    file: paths.ffmpeg,
    arguments: ['-hide_banner', '-encoders'],
  }).catch((error: unknown) => {
    if (isEngineError(error)) return null;
    throw error;
  });
  const names = [...(listed?.stdout.toString('utf8') ?? '').matchAll(NAME)];
  const found: HardwareEncoder[] = [];
  for (const [name, codec = '', kind = ''] of names)
    found.push({ codec, kind, works: await encodesAnything(paths, name) });
  return found;
}

async function encodesAnything(paths: EnginePaths, name: string): Promise<boolean> {
  const result = await runProcess({
    ...ASKING_LIMITS,
    file: paths.ffmpeg,
    arguments: [
      ...['-hide_banner', '-nostdin', '-v', 'error', ...deviceOf(name)],
      ...['-f', 'lavfi', '-i', 'color=gray:s=320x240:r=25:d=0.2', '-vf', pathOf(name)],
      ...['-c:v', name, '-f', 'null', '-'],
    ],
  }).catch((error: unknown) => {
    if (isEngineError(error)) return null;
    throw error;
  });
  return result?.exitCode === 0;
}

/** Where a machine's graphics are found; encoders of this kind take no other frames than those that lie there. */
const DEVICE = '/dev/dri/renderD128';

function deviceOf(name: string): string[] {
  return name.endsWith('_vaapi') ? ['-vaapi_device', DEVICE] : [];
}

function pathOf(name: string): string {
  return name.endsWith('_vaapi') ? 'format=nv12,hwupload' : 'format=nv12';
}
