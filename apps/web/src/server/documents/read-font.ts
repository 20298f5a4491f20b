import { readFileSync } from 'node:fs';
import { createRequire } from 'node:module';

const FONT = '@fontsource-variable/atkinson-hyperlegible-next/files/atkinson-hyperlegible-next-latin-wght-normal.woff2';
let font: string | undefined;

/** The application's own font as base64: it goes into documents, so that they look the same everywhere. */
export function readFont(): string {
  font ??= readFileSync(createRequire(import.meta.url).resolve(FONT)).toString('base64');
  return font;
}
