import type { Capture, ScreenElement } from './capture.ts';
import { foldWords } from './capture.ts';
import type { Target, Want } from './find-element.ts';
import { findElement } from './find-element.ts';

const MOST_TRIED = 60;

/**
 * The shortest words that find this element and no other: its name alone, else with what stands beside it, else with the part of the
 * screen that holds it, else with both. Each is proved by finding it. Undefined where no words tell it apart.
 */
export function nameElement(capture: Capture, element: ScreenElement, want: Want): Target | undefined {
  const finds = (target: Target) => {
    const finding = findElement(capture, target);
    return (finding.kind === 'found' || finding.kind === 'fixed') && finding.element.index === element.index;
  };
  const names = [...new Set([element.name, element.label, element.text])].filter((name) => foldWords(name) !== '');
  for (const name of names) if (finds({ want, name })) return { want, name };
  const besides = listBesides(capture, element);
  const withins = listWithins(capture, element);
  for (const name of names) for (const beside of besides) if (finds({ want, name, beside })) return { want, name, beside };
  for (const name of names) for (const within of withins) if (finds({ want, name, within })) return { want, name, within };
  for (const name of names)
    for (const within of withins)
      for (const beside of besides) if (finds({ want, name, within, beside })) return { want, name, within, beside };
  return undefined;
}

/** Words on its line or in its row, the shortest first. */
function listBesides({ elements }: Capture, element: ScreenElement): string[] {
  const middle = element.box.y + element.box.height / 2;
  const words = elements.flatMap(({ index, isVisible, text, value, box, frame }) =>
    isVisible && index !== element.index && frame === element.frame && box.y <= middle && middle <= box.y + box.height ? [text, value] : [],
  );
  return toShortest(words);
}

/** The parts of the screen that hold it, and the headings before it. */
function listWithins({ elements }: Capture, element: ScreenElement): string[] {
  const holders: string[] = [];
  for (let at = elements[element.parent]; at; at = elements[at.parent]) holders.push(at.name);
  const headings = elements.filter(({ role, isVisible, index }) => role === 'heading' && isVisible && index < element.index);
  return toShortest([...holders, ...headings.map(({ text }) => text)]);
}

const toShortest = (words: readonly string[]) =>
  [...new Set(words.filter((one) => foldWords(one) !== ''))].sort((a, b) => a.length - b.length).slice(0, MOST_TRIED);
