import type { TemplateSource } from '../values/template.ts';
import { fillTemplate, parseTemplate } from '../values/template.ts';

/** What of an expected result can be looked for on a screen, and the words of people that are left over. */
export interface Expectation {
  /** Words that should stand on the screen. */
  readonly words: readonly string[];
  /** What only a person can judge; `` where all of it is looked for. */
  readonly left: string;
}

const QUOTED = /[“"„]([^“”"„]+)[”"“]/g;
/** Small words that say nothing by themselves. */
const JOINING = /^(?:the|a|an|is|are|and|with|of|to|in|on|at|beside|there|it|says|shows|as|by|,|;|\.|:|\s)*$/i;

/**
 * Reads an expected result: words in quotes and values in braces are looked for, all else is left to people. Nothing is guessed: “Quote saved”
 * with a number gives one thing to look for, and *with a number* is left.
 */
export function readExpectation(expect: string, source: TemplateSource): Expectation {
  const words: string[] = [];
  const note = (text: string) => {
    const plain = text.trim();
    if (plain !== '' && !words.includes(plain)) words.push(plain);
    return ' ';
  };
  const unquoted = expect.replace(QUOTED, (_, inside: string) => note(fillTemplate(inside, source)));
  const left = parseTemplate(unquoted)
    .map((part) => (part.kind === 'text' ? part.text : note(fillTemplate(printPart(part), source))))
    .join('')
    .replace(/\s+/g, ' ')
    .trim();
  return { words, left: JOINING.test(left) ? '' : left };
}

function printPart(part: Exclude<ReturnType<typeof parseTemplate>[number], { kind: 'text' }>): string {
  if (part.kind === 'name') return `{${part.name}}`;
  if (part.kind === 'new') return `{new ${part.pattern}}`;
  return `{today ${part.offset < 0 ? '-' : '+'} ${Math.abs(part.offset)} ${part.working ? 'working ' : ''}days}`;
}
