import { describe, expect, it } from 'vitest';
import fc from 'fast-check';
import { faultInTemplate, fillTemplate, NAME_FIELDS, type NameFields } from './nameTemplate.ts';

const NOTHING = Object.fromEntries(NAME_FIELDS.map((name) => [name, ''])) as NameFields;

describe('templates for names', () => {
  it.each([
    ['{programme}, {portion} {size}', { programme: 'Sky', size: '640x360' }, 'Sky 640x360'],
    ['{programme}, {portion} {size}', { programme: 'Sky', portion: 'End' }, 'Sky, End'],
    ['{portion} - {programme}', { programme: 'Sky' }, 'Sky'],
    ['{programme} {width}x{height}', { programme: 'Guide' }, 'Guide'],
    ['{programme}_{height}p_{fps}fps_v2', { programme: 'Guide', fps: '25' }, 'Guide_25fps_v2'],
    ['{programme} ({size})', { programme: 'Guide' }, 'Guide'],
    ['{programme} ({size})', { programme: 'Sky', size: '640x360' }, 'Sky (640x360)'],
    ['{programme} (web {size})', { programme: 'Sky' }, 'Sky (web)'],
    ['{programme} $& $1', { programme: '$&' }, '$& $& $1'],
  ])('%j with %j is %j', (template, fields, name) => {
    expect(fillTemplate(template, { ...NOTHING, ...fields })).toBe(name);
  });

  it('are refused with what is wrong', () => {
    expect(faultInTemplate('{programme} {size}')).toBeNull();
    expect(faultInTemplate('a name without fields')).toBeNull();
    expect(faultInTemplate('  ')).toMatch(/^It is empty/);
    expect(faultInTemplate('{title}')).toMatch(/^There is no \{title\}; there are \{programme\}, /);
    expect(faultInTemplate('{programme')).toMatch(/^A brace is not closed/);
    expect(faultInTemplate('}{size}')).toMatch(/^A brace is not closed/);
    expect(faultInTemplate('{Size}')).not.toBeNull();
    expect(faultInTemplate('x'.repeat(181))).toMatch(/^It is longer/);
  });

  it('that are taken leave no brace of their own', () => {
    const pieces = fc.constantFrom(...NAME_FIELDS.map((name) => `{${name}}`), ' ', ', ', '(', ')', 'x', '{', '}', '-');
    fc.assert(
      fc.property(fc.array(pieces, { minLength: 1, maxLength: 8 }), (parts) => {
        const template = parts.join('');
        fc.pre(faultInTemplate(template) === null);
        expect(fillTemplate(template, NOTHING)).not.toMatch(/[{}]/);
        expect(fillTemplate(template, { ...NOTHING, programme: 'Sky' })).not.toMatch(/[{}]/);
      }),
    );
  });
});
