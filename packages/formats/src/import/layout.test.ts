import { readFileSync } from 'node:fs';
import { fileURLToPath } from 'node:url';
import { describe, expect, it } from 'vitest';
import { SHEET_LAYOUTS } from './layout.ts';

const DOCS = readFileSync(fileURLToPath(new URL('../../../../docs/import.md', import.meta.url)), 'utf8');

describe('docs/import.md', () => {
  it.each(Object.values(SHEET_LAYOUTS))('tells every column of $name, in its order', ({ name, columns }) => {
    const part = DOCS.split('\n## ').find((section) => section.startsWith(`${name} (`)) ?? '';
    const told = [...part.matchAll(/^\| ([A-Z][^|]*?) \|/gm)].map((match) => match[1]);
    expect(told).toEqual(columns.map(({ heading }) => heading));
  });
});
