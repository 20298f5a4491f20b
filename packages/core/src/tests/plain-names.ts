import type { SignedText } from './quoted-parts.ts';
import { hasSign, resolveSigns, SIGN } from './quoted-parts.ts';

const DETERMINER = /^(?:the|an?|your|his|her|its|their|our|this|these|those|all|any|some|each|every|new)\s+(?=\S)/i;
const VALUE_NOUN = new RegExp(`^(?:value|text|option|entry|item)\\s+(?=[A-Z0-9${SIGN.slice(1, -1)}])`);
const ARTICLE = /^(?:the|your|his|her|its|their|our|this)\s+(?=\S)/i;
const WIDGET =
  /\s+(?:push ?button|button|hyperlink|link|icon|field|box|text ?box|text ?field|input(?: field)?|edit field|drop-?down(?: list| menu| box)?|combo ?box|list ?box|check ?box|tick ?box|radio button|toggle|switch|option|tab|menu(?: item| entry)?|key)$/i;
const PLACE = /\s+(?:page|screen|window|dialog(?:ue)?(?: box)?|view|panel|tab|menu)$/i;
/** Words that say nothing without the noun behind them: the main menu, the next page. */
const BARE = /^(?:main|home|start|new|next|previous|first|last|search|log-?in|sign-?in|same|other|context|left|right|top)$/;
const CALLED = new RegExp(
  `^(?:form\\s+)?(?:(?:[Dd]rop-?down|push ?button|button|link|icon|field|box|tab|tile|toggle|switch|drop-?down|menu(?: item)?|check ?box|option|value|entry|item|page|screen|window|list|form)\\s+)(?:(?:labell?ed|called|named|marked|titled)\\s+)?(?=[A-Z${SIGN.slice(1, -1)}])`,
);

/** The marks at a text’s end; the point of “no.” belongs to it. */
const FINAL_MARKS = /(?:(?<!\bn[or])[\s.!?;,:])+$/;
const MARKS = ' .!?;,:';

export function stripFinalMarks(text: string): string {
  return MARKS.includes(text.charAt(text.length - 1)) ? text.replace(FINAL_MARKS, '') : text;
}

/** “the surname”: names a thing, where a bare word or a quoted one may be a value. */
export function isTarget(text: string): boolean {
  return !hasSign(text) && DETERMINER.test(text);
}

const capitalize = (text: string) => (text === '' ? text : text.charAt(0).toUpperCase() + text.slice(1));

function strip(text: string, nouns: RegExp): string {
  const plain = stripFinalMarks(text.trim()).replace(DETERMINER, '').replace(CALLED, '');
  const bare = plain.replace(nouns, '').trim();
  return bare === '' || BARE.test(bare) || /\s(?:the|an?|of)$/.test(bare) ? plain : bare;
}

/** A thing's name as it stands on the screen: no article, no *button*, *field*, …; what was quoted stays exactly. */
export function toName(text: string, signed: SignedText): string {
  const bare = strip(text, WIDGET);
  return resolveSigns(hasSign(bare.charAt(0)) ? bare : capitalize(bare), signed);
}

/** A place's name: no article, no *page*, *screen*, *window*, … */
export function toPlace(text: string, signed: SignedText): string {
  const bare = strip(text, PLACE);
  return resolveSigns(hasSign(bare.charAt(0)) ? bare : capitalize(bare), signed);
}

/** A value as it was written, without *the value*. */
export function toValue(text: string, signed: SignedText): string {
  const plain = text.trim().replace(ARTICLE, '').replace(VALUE_NOUN, '');
  return resolveSigns(plain, signed);
}

const MOST_WORDS = 6;

/** “the surname, the first name and the date of birth” are three things; anything longer is one. */
export function splitList(text: string): string[] {
  const pieces = text.split(/\s*,\s*(?:and\s+)?|\s+and\s+|\s*&\s*/).filter((piece) => piece !== '');
  return pieces.every((piece) => piece.split(' ').length <= MOST_WORDS) ? pieces : [text];
}
