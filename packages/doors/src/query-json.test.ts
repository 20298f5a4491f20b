import { describe, expect, it } from 'vitest';
import type { Json } from '@kindred-baton/core/doors/answer';
import { queryJson } from './query-json.ts';

/** RFC 9535, JSONPath, Figure 1: the example value. */
const STORE: Json = {
  store: {
    book: [
      { category: 'reference', author: 'Nigel Rees', title: 'Sayings of the Century', price: 8.95 },
      { category: 'fiction', author: 'Evelyn Waugh', title: 'Sword of Honour', price: 12.99 },
      { category: 'fiction', author: 'Herman Melville', title: 'Moby Dick', isbn: '0-553-21311-3', price: 8.99 },
      { category: 'fiction', author: 'J. R. R. Tolkien', title: 'The Lord of the Rings', isbn: '0-395-19395-8', price: 22.99 },
    ],
    bicycle: { color: 'red', price: 399 },
  },
};

describe('paths in an answer', () => {
  it.each([
    // RFC 9535, Table 2: example expressions and what each of them selects.
    ['$.store.book[*].author', ['Nigel Rees', 'Evelyn Waugh', 'Herman Melville', 'J. R. R. Tolkien']],
    ['$..author', ['Nigel Rees', 'Evelyn Waugh', 'Herman Melville', 'J. R. R. Tolkien']],
    ['$.store..price', [8.95, 12.99, 8.99, 22.99, 399]],
    ['$..book[2].author', ['Herman Melville']],
    ['$..book[2].publisher', []],
    ['$..book[-1].title', ['The Lord of the Rings']],
    ['$..book[0,1].title', ['Sayings of the Century', 'Sword of Honour']],
    ['$..book[:2].title', ['Sayings of the Century', 'Sword of Honour']],
    ['$..book[?@.isbn].title', ['Moby Dick', 'The Lord of the Rings']],
    ['$..book[?@.price<10].title', ['Sayings of the Century', 'Moby Dick']],
  ])('%s', (path, expected) => {
    const sorted = (values: readonly unknown[] | undefined) => [...(values ?? ['no path'])].map(String).sort();
    expect(sorted(queryJson(STORE, path))).toEqual(sorted(expected));
  });

  it('says of what is none that it is none', () => {
    expect(['$.', 'store', '$[', '$.a b', '$[?@.x = 1]'].map((path) => queryJson(STORE, path))).toEqual(
      Array.from({ length: 5 }, () => undefined),
    );
  });
});
