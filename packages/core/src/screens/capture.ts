/** A place on the page in CSS pixels, from its upper left corner; frames are counted in. */
export interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

/** One element of a screen, as somebody who sees or hears it knows it. */
export interface ScreenElement {
  /** Its place in the capture; elements stand in reading order. */
  readonly index: number;
  /** Its ARIA role (WAI-ARIA 1.2); `text` for plain text, `` where nothing is said. */
  readonly role: string;
  /** Its accessible name (Accessible Name and Description Computation 1.2). */
  readonly name: string;
  /** The visible text in it. */
  readonly text: string;
  /** What stands beside or above it and is read as its label; only where it has no name of its own. */
  readonly label: string;
  /** What it holds now: typed, picked. */
  readonly value: string;
  readonly box: Box;
  /** The nearest element that holds it; −1: the page. */
  readonly parent: number;
  /** Which document it stands in: 0 is the page, each frame has its own. */
  readonly frame: number;
  readonly isVisible: boolean;
  /** It takes no change: disabled or read only. */
  readonly isFixed: boolean;
  readonly isChecked: boolean;
  readonly isModal: boolean;
  /** Depth of a heading, 1 to 6; 0 for all else. */
  readonly level: number;
  /** What can be picked in it. */
  readonly options: readonly string[];
  /** By which the browser knows it (a backend node id of the DevTools protocol); 0 where there is none. */
  readonly handle: number;
  /** A field whose content is never to be shown. */
  readonly isSecret: boolean;
  /** The browser's own kind of an input, such as date; `` for all else. */
  readonly kind: string;
}

/** A screen as data. */
export interface Capture {
  readonly address: string;
  readonly title: string;
  readonly elements: readonly ScreenElement[];
}

/** Words as they are compared: case, white space, a colon or star at the end, and quotes around them do not matter. */
export function foldWords(words: string): string {
  return PLAIN.test(words) ? words.toLowerCase() : foldAny(words);
}

/** Most words need no more than small letters: this one look spares the rest. */
const PLAIN = /^[a-z0-9]+(?:[ .-][a-z0-9]+)*$/i;

function foldAny(words: string): string {
  return words
    .normalize('NFKC')
    .replace(/[\s\u00a0\u200b-\u200f\u202a-\u202e\u2066-\u2069]+/g, ' ')
    .trim()
    .replace(/^["“”„‘’']+|["“”„‘’']+$/g, '')
    .replace(/[\s:*…]+$/g, '')
    .toLowerCase();
}
