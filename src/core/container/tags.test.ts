import { describe, expect, it } from 'vitest';
import { tagsIn, tidyTags } from './tags.ts';

describe('what a file tells of itself', () => {
  it('is found by its word, in whatever case and with whatever before it', () => {
    expect(tagsIn({ TITLE: 'Dusk', 'org.example.copyright': 'The hill observatory', encoder: 'x' })).toEqual({
      title: 'Dusk',
      copyright: 'The hill observatory',
    });
  });

  it('goes by the first of several words for the same', () => {
    expect(tagsIn({ author: 'One', artist: 'Another', year: '2026' })).toEqual({ artist: 'Another', date: '2026' });
    expect(tagsIn({ title: 'First', 'org.example.title': 'Second' })).toEqual({ title: 'First' });
  });

  it('tells nothing of where and when it was made, or by what', () => {
    expect(tagsIn({ location: '+50+008/', creation_time: '2026-01-01', encoder: 'x' })).toEqual({});
  });

  it('is one line of signs that can be seen, of a sane length', () => {
    expect(tidyTags({ title: ' a\n\tb\u202e ', comment: ' \n' })).toEqual({ title: 'a b' });
    expect(Array.from(tidyTags({ comment: '🎬'.repeat(600) }).comment ?? '')).toHaveLength(500);
  });
});
