import type { Markup } from '../xml/markup.ts';
import { markup, toStyleSheet } from '../xml/markup.ts';

export interface DocumentHead {
  readonly title: string;
  readonly programme: string;
  /** As people write it: 25 November 2026. */
  readonly day: string;
  readonly paper: 'A4' | 'Letter';
  /** A font to put into it: WOFF2 as base64. */
  readonly font?: string | undefined;
}

/** A printable page (HTML with its own style, no script): A4 or Letter, with page numbers. */
export function writePage({ title, paper, font }: DocumentHead, body: Markup, { style = '', isWide = false } = {}): string {
  const css = `${toFontFace(font)}${toStyle(`${paper}${isWide ? ' landscape' : ''}`)}${style}`;
  return markup`<!doctype html>
<html lang="en"><head><meta charset="utf-8"><link rel="icon" href="data:,"><title>${title}</title><style>${toStyleSheet(css)}</style></head><body>
${body}
</body></html>`.write();
}

const toFontFace = (font: string | undefined) =>
  font === undefined
    ? ''
    : `@font-face { font-family: "Atkinson Hyperlegible Next"; font-weight: 200 800; src: url(data:font/woff2;base64,${font}) format("woff2") }`;

const toStyle = (size: string) => `
@page { size: ${size}; margin: 18mm 16mm 20mm; @bottom-right { content: counter(page) " / " counter(pages); font: 9pt sans-serif; color: #566670 } }
body { font: 10.5pt/1.4 "Atkinson Hyperlegible Next", "Atkinson Hyperlegible", Arial, sans-serif; color: #17282f; margin: 0 }
h1 { font-size: 26pt; line-height: 1.15; margin: 0 0 6mm } h2 { font-size: 15pt; margin: 0 0 1mm } h3 { font-size: 11pt; margin: 6mm 0 1mm }
a { color: inherit; text-decoration: none } .about, .programme { color: #566670 } code { font-family: monospace; background: #f4f1e9; padding: 0 1mm; border-radius: 1mm }
table { border-collapse: collapse; width: calc(100% - 0.4mm); margin-top: 3mm } th, td { border: 0.3mm solid #b9b09d; padding: 1.5mm 2mm; vertical-align: top; text-align: left; overflow-wrap: anywhere } th { overflow-wrap: break-word }
thead { display: table-header-group } tr { break-inside: avoid } th { background: #f4f1e9; font-weight: 600 } .no { width: 8mm; text-align: right }
@media screen { body { max-width: 190mm; margin: 10mm auto; padding: 0 8mm; background: #fffdf9 } }
`;
