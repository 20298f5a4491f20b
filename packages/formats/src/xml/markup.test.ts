import fc from 'fast-check';
import { XMLParser } from 'fast-xml-parser';
import { describe, expect, it } from 'vitest';
import { joinMarkup, markup, NO_MARKUP, toAttributes, toLines } from './markup.ts';

describe('markup', () => {
  it('escapes texts and numbers that are put in, and leaves what is markup already', () => {
    const name = markup`<b>${'A & "B" <c>'}</b>`;
    expect(name.write()).toBe('<b>A &amp; &quot;B&quot; &lt;c&gt;</b>');
    expect(markup`<p title="${'x" onload="y'}">${name} ${3}${NO_MARKUP}</p>`.write()).toBe(
      '<p title="x&quot; onload=&quot;y"><b>A &amp; &quot;B&quot; &lt;c&gt;</b> 3</p>',
    );
  });

  it('puts lists one behind the other, or on lines, or with a text between', () => {
    const items = ['a', '<'].map((text) => markup`<i>${text}</i>`);
    expect(markup`<p>${items}${['&', markup`<hr/>`]}</p>`.write()).toBe('<p><i>a</i><i>&lt;</i>&amp;<hr/></p>');
    expect(toLines(items).write()).toBe('<i>a</i>\n<i>&lt;</i>');
    expect(joinMarkup(items, ' & ').write()).toBe('<i>a</i> &amp; <i>&lt;</i>');
  });

  it('writes attributes that have a value', () => {
    expect(toAttributes({ code: 'A"B', none: undefined, empty: '' }, 'kb:').write()).toBe(' kb:code="A&quot;B" kb:empty=""');
  });

  it('leaves out what XML cannot hold, and keeps line ends of attributes', () => {
    expect(markup`${'a\u0000\u0008b\n\tc\uffff'}`.write()).toBe('ab&#10;&#9;c');
  });

  // By fast-xml-parser 5, which knows nothing of this writer.
  it('an independent reader gets back what was put in, whatever it is', () => {
    const parser = new XMLParser({
      ...{ ignoreAttributes: false, attributeNamePrefix: '', trimValues: false, parseTagValue: false, parseAttributeValue: false },
      ...{ htmlEntities: true, processEntities: true },
    });
    fc.assert(
      fc.property(fc.string({ unit: 'grapheme', minLength: 1, maxLength: 40 }), fc.string({ maxLength: 40 }), (text, attribute) => {
        const held = (value: string) => value.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '');
        const read = parser.parse(markup`<a><b c="${attribute}">x${text}x</b></a>`.write()) as { a: { b: { c: string; '#text': string } } };
        expect([read.a.b['#text'], read.a.b.c ?? '']).toEqual([held(`x${text}x`), held(attribute)]);
      }),
      { numRuns: 300 },
    );
  });
});
