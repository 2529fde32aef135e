import { describe, expect, it } from 'vitest';
import { cutMiddle } from './MiddleCut.tsx';

describe('a name that is too long', () => {
  it('keeps its beginning and its end, where names differ', () => {
    const [one, two] = ['1080', '0720'].map((size) => cutMiddle(`${'Evening programme '.repeat(6)}${size}.mov`, 40));
    expect(one).toHaveLength(40);
    expect(one).not.toBe(two);
    expect(one).toMatch(/^Evening.*….*1080\.mov$/);
    expect(cutMiddle('short.mov', 40)).toBe('short.mov');
  });

  it('is never cut within a character', () => {
    expect(cutMiddle('🎬'.repeat(50), 10)).toBe(`${'🎬'.repeat(4)}…${'🎬'.repeat(5)}`);
  });
});
