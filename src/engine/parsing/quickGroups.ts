import type { QuickGroupsRequest } from '../arguments/quickGroups.ts';
import type { QuickGroup } from '../engine.ts';

/** One frame as the measuring encoder tells of it: who tells, its bytes, its PSNR and its SSIM of luma. */
const FRAME = /^\[libx264 @ (\S+)\] frame= *\d+ .* size=(\d+) bytes PSNR Y:([\d.]+|inf)\S* .*SSIM Y:([\d.]+)/;

/** Written by the encoder's log of debugging; nothing else of it is kept. */
const CHATTER =
  /^\[|^ |^(?:Opening|Reading|Finished|Applying|Successfully|Processing|Routing|Transform|Last message|cur_dts|detected)/;

/** What PSNR says where there is no error at all. */
const PERFECT_DB = 100;

interface ToldFrame {
  readonly bytes: number;
  readonly ssimLoss: number;
  readonly mse: number;
}

/** Reads what two encodes tell of their frames, and adds it up by groups of pictures. */
export interface QuickGroupReader {
  /** @returns Whether the line is taken, and need not be kept for telling what went wrong. */
  read(line: string): boolean;
  /**
   * @returns The encode that took more first.
   * @throws RangeError when there were not two encodes of as many frames.
   */
  finish(): readonly [fine: QuickGroup[], coarse: QuickGroup[]];
}

/** @param request - Frames are told in the order they are decoded, and no group reaches into another. */
export function createQuickGroupReader({ keyframeInterval, lead }: QuickGroupsRequest): QuickGroupReader {
  const encodes = new Map<string, ToldFrame[]>();
  return {
    read: (line) => {
      const [, who, size, psnr, ssim] = FRAME.exec(line) ?? [];
      if (who === undefined) return CHATTER.test(line) && !/error|fail|invalid/i.test(line);
      const frames = encodes.get(who) ?? [];
      encodes.set(who, frames);
      const decibels = psnr === 'inf' ? PERFECT_DB : Number(psnr);
      frames.push({
        bytes: Number(size),
        ssimLoss: Math.max(1e-6, 1 - Number(ssim)),
        mse: 255 ** 2 / 10 ** (decibels / 10),
      });
      return true;
    },
    finish: () => {
      const sized = [...encodes.values()].map((frames) => ({ frames, bytes: sum(frames, 'bytes') }));
      const [fine, coarse] = sized.toSorted((a, b) => b.bytes - a.bytes);
      if (!fine || !coarse || fine.frames.length !== coarse.frames.length) {
        throw new RangeError(`Expected two encodes of as many frames, found ${sized.length}.`);
      }
      return [addUp(fine.frames.slice(lead), keyframeInterval), addUp(coarse.frames.slice(lead), keyframeInterval)];
    },
  };
}

function addUp(frames: readonly ToldFrame[], keyframeInterval: number): QuickGroup[] {
  return Array.from({ length: Math.ceil(frames.length / keyframeInterval) }, (_, index) => {
    const group = frames.slice(index * keyframeInterval, (index + 1) * keyframeInterval);
    return {
      bytes: sum(group, 'bytes'),
      ssimLoss: sum(group, 'ssimLoss') / group.length,
      mse: sum(group, 'mse') / group.length,
    };
  });
}

function sum(frames: readonly ToldFrame[], of: keyof ToldFrame): number {
  return frames.reduce((total, frame) => total + frame[of], 0);
}
