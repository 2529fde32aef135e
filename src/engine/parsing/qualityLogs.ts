import type { FrameQuality } from '../../core/quality/frameQuality.ts';

/**
 * Joins the two per-frame logs of a measurement.
 *
 * @param ssimLog - Lines `n:1 Y:0.99 U:… V:… All:0.98 (17.1)`.
 * @param psnrLog - Lines `n:1 mse_avg:0.5 mse_y:0.6 …`.
 * @returns One entry a frame, in order; as many as the shorter log has.
 */
export function parseQualityLogs(ssimLog: string, psnrLog: string): FrameQuality[] {
  const ssim = readRows(ssimLog);
  const psnr = readRows(psnrLog);
  const count = Math.min(ssim.length, psnr.length);
  return Array.from({ length: count }, (_, index) => ({
    // A picture without chroma is measured in luma alone.
    ssimLuma: ssim[index]!.get('Y') ?? ssim[index]!.get('All') ?? 0,
    ssimAll: ssim[index]!.get('All') ?? 0,
    mseLuma: psnr[index]!.get('mse_y') ?? psnr[index]!.get('mse_avg') ?? 0,
    mseAll: psnr[index]!.get('mse_avg') ?? 0,
  }));
}

function readRows(log: string): Map<string, number>[] {
  return log
    .split('\n')
    .filter((line) => line.startsWith('n:'))
    .map(
      (line) => new Map(Array.from(line.matchAll(/(\w+):(-?[\d.]+|inf)/g), ([, key, value]) => [key!, Number(value)])),
    );
}
