import { execFileSync } from 'node:child_process';
import { makeFolder } from './footage.ts';

/** Mounting wants root; where that is not so, what needs it is counted as skipped. */
export const canMount = (() => {
  const probe = makeFolder();
  try {
    execFileSync('mount', ['-t', 'tmpfs', '-o', 'size=64k', 'tmpfs', probe], { stdio: 'ignore' });
    execFileSync('umount', [probe]);
    return true;
  } catch {
    return false;
  }
})();
