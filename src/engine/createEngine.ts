import { copyArguments } from './arguments/copy.ts';
import { masterArguments, pictureArguments, waysArguments } from './arguments/encode.ts';
import { quickGroupsArguments } from './arguments/quickGroups.ts';
import type { Engine, HardwareEncoder } from './engine.ts';
import { createQuickGroupReader } from './parsing/quickGroups.ts';
import { analyse } from './runs/analyse.ts';
import { readCaptions } from './runs/captions.ts';
import { copySounds } from './runs/copySounds.ts';
import { encode } from './runs/encode.ts';
import { encodeSounds } from './runs/encodeSounds.ts';
import { gauge } from './runs/gauge.ts';
import { joinGroups, listGroups } from './runs/groups.ts';
import type { EnginePaths } from './runs/limits.ts';
import { measureLoudness } from './runs/loudness.ts';
import { createPairThreads } from './process/pairThreads.ts';
import { comparePictures } from './runs/compare.ts';
import { makeStandIn, takeFrame, takeRawFrames } from './runs/pictures.ts';
import { kindFor, probeHardware } from './runs/hardware.ts';
import { inspectFile, probeFile, timePackets } from './runs/probe.ts';
import { reportEngine } from './runs/report.ts';

/**
 * An engine that runs the two named programs.
 */
export function createEngine(paths: EnginePaths): Engine {
  const threads = createPairThreads();
  let probed: Promise<HardwareEncoder[]> | null = null;
  const hardware = () => (probed ??= probeHardware(paths));
  return {
    report: () => reportEngine(paths),
    probeHardware: hardware,
    inspect: (file, signal) => inspectFile(paths, file, signal),
    probe: (file, signal) => probeFile(paths, file, signal),
    encodeSounds: (request, options) => encodeSounds(paths, request, options),
    encodePicture: async (picture, run, files, options) => {
      const kind = picture.do.hardware ? kindFor(picture.do.codec, await hardware()) : null;
      await encode(paths, pictureArguments(picture, run, files, kind), options);
    },
    encodeWays: async (ways, source, options) => {
      await encode(paths, waysArguments(ways, source), options);
    },
    encodeMaster: async (picture, files, options) => {
      await encode(paths, masterArguments(picture, files), options);
    },
    copySounds: (sound, source, output, options) => copySounds(paths, sound, source, output, options),
    timePackets: (file, signal) => timePackets(paths, file, signal),
    copyStreams: async (request, options) => {
      await encode(paths, copyArguments(request), options);
    },
    listGroups: (file, signal) => listGroups(paths, file, signal),
    joinGroups: (request, options) => joinGroups(paths, request, options),
    gauge: (picture, request, source, options) => gauge(paths, picture, request, source, options),
    weighGroups: async (picture, request, source, options) => {
      const reader = createQuickGroupReader(request);
      await encode(paths, quickGroupsArguments(picture, request, source), options, { onLogLine: reader.read });
      return reader.finish();
    },
    analyse: (request, options) => analyse(paths, request, options),
    measureLoudness: (file, track, signal) => measureLoudness(paths, file, track, signal),
    compare: (master, results, options) => comparePictures(paths, threads, master, results, options),
    captions: (source, signal) => readCaptions(paths, source, signal),
    standIn: (request, signal) => makeStandIn(paths, request, signal),
    still: (request, signal) => takeFrame(paths, request, signal),
    rawFrames: (requests, signal) => takeRawFrames(paths, requests, signal),
  };
}
