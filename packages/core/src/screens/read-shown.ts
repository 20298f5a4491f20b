import type { Capture, ScreenElement } from './capture.ts';
import { foldWords } from './capture.ts';
import { isField } from './roles.ts';

/** What an element shows: what a field holds, else its text. */
export function readShown(element: ScreenElement): string {
  return isField(element.role) ? element.value : element.text || element.name;
}

/** All that can be read on a screen, in order, one piece a line; what fields hold too. */
function readScreen({ elements }: Capture): string[] {
  return elements.flatMap((element) => {
    if (!element.isVisible || element.isSecret) return [];
    const words = readShown(element);
    return words === '' ? [] : [words];
  });
}

/** Whether words stand somewhere on the screen, whole: as a word, not as a part of one. */
export function isOnScreen(capture: Capture, words: string): boolean {
  const wanted = foldWords(words);
  return wanted !== '' && readScreen(capture).some((line) => holdsWords(foldWords(line), wanted));
}

const isWordSign = (sign: string | undefined) => sign !== undefined && /[\p{L}\p{N}]/u.test(sign);

/** Whether folded words stand in a folded line by themselves: “12” is not in “120”, “5.00” not in “15.00”. */
export function holdsWords(line: string, words: string): boolean {
  for (let at = line.indexOf(words); at >= 0; at = line.indexOf(words, at + 1)) {
    const before = line.slice(0, at).match(/[\p{L}\p{N}]?[.,]?$/u)?.[0] ?? '';
    const after = line.slice(at + words.length).match(/^[.,]?[\p{L}\p{N}]?/u)?.[0] ?? '';
    const cutsBefore = isWordSign(words[0]) && (isWordSign(before.at(-1)) || (/\d/.test(words[0]!) && /\d[.,]$/.test(before)));
    const cutsAfter = isWordSign(words.at(-1)) && (isWordSign(after[0]) || (/\d/.test(words.at(-1)!) && /^[.,]\d/.test(after)));
    if (!cutsBefore && !cutsAfter) return true;
  }
  return false;
}
