import { expect, it } from 'vitest';
import { watchSharing } from './sharing.ts';

it('counts the time in which another lane is at work, and not its own', () => {
  let seconds = 0;
  const { enter } = watchSharing(() => seconds * 1000);
  const encode = enter('encode');
  seconds = 4;
  const gentle = enter('gentle');
  seconds = 7;
  // A second encode at once is of the same lane.
  const other = enter('encode');
  seconds = 9;
  expect([encode, gentle, other].map((one) => one.besideSeconds())).toEqual([5, 5, 2]);
  gentle.leave();
  seconds = 20;
  expect([encode, other].map((one) => one.besideSeconds())).toEqual([5, 2]);
});
