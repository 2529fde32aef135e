import { describe, expect, it } from 'vitest';
import { addPortion, changePortion, reorderPortion, sceneAround, setEnd } from './spans.ts';

describe('portions', () => {
  it('get the first free name and an id of their own', () => {
    const [one] = addPortion([], { inFrame: 0, outFrame: 9 });
    const [two] = addPortion(one, { inFrame: 20, outFrame: 29 });
    expect(two.map(({ name }) => name)).toEqual(['Portion 1', 'Portion 2']);
    expect(new Set(two.map(({ id }) => id)).size).toBe(2);
    const [three] = addPortion(two.slice(1), { inFrame: 0, outFrame: 1 });
    expect(three.map(({ name }) => name)).toEqual(['Portion 2', 'Portion 1']);
  });

  it('change and move without touching the others', () => {
    const [list] = addPortion(addPortion([], { inFrame: 0, outFrame: 9 })[0], { inFrame: 20, outFrame: 29 });
    const [first, second] = list;
    expect(changePortion(list, second!.id, { outFrame: 25 })).toEqual([first, { ...second, outFrame: 25 }]);
    expect(reorderPortion(list, 1, 0)).toEqual([second, first]);
  });

  it('keep in before out: beyond the other end a portion moves with its length, and that is told', () => {
    const portion = { inFrame: 10, outFrame: 20 };
    expect(setEnd(portion, 'in', 30, 100)).toEqual({ inFrame: 30, outFrame: 40, hasMoved: true });
    expect(setEnd(portion, 'in', 95, 100)).toEqual({ inFrame: 95, outFrame: 99, hasMoved: true });
    expect(setEnd(portion, 'out', 5, 100)).toEqual({ inFrame: 0, outFrame: 5, hasMoved: true });
    expect(setEnd(portion, 'out', 15, 100)).toEqual({ inFrame: 10, outFrame: 15, hasMoved: false });
  });

  it('run from scene change to the frame before the next', () => {
    expect(sceneAround([72, 144, 216], 100, 288)).toEqual({ inFrame: 72, outFrame: 143 });
    expect(sceneAround([72, 144, 216], 72, 288)).toEqual({ inFrame: 72, outFrame: 143 });
    expect(sceneAround([72, 144, 216], 10, 288)).toEqual({ inFrame: 0, outFrame: 71 });
    expect(sceneAround([72, 144, 216], 250, 288)).toEqual({ inFrame: 216, outFrame: 287 });
    expect(sceneAround([], 5, 288)).toEqual({ inFrame: 0, outFrame: 287 });
  });
});
