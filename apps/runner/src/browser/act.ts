import type { ScreenElement } from '@kindred-baton/core/screens/capture';
import { foldWords } from '@kindred-baton/core/screens/capture';
import type { KeyInput } from 'puppeteer-core';
import type { Tab } from './open-tab.ts';

/** Something in the browser that kept an act from being done, as a sentence. */
export class CannotAct extends Error {}

const TRIES = 20;
const PAUSE_MS = 100;
const DELIVERED_MS = 3_000;

/** A press that brings another page may take its own answer along with the page that goes: it is waited for, but not for ever. */
async function deliver(input: Promise<unknown>): Promise<void> {
  let limit: NodeJS.Timeout | undefined;
  const patience = new Promise((resolve) => (limit = setTimeout(resolve, DELIVERED_MS)));
  // What fails after that fails with the page; the next look says so.
  await Promise.race([input, patience]).finally(() => clearTimeout(limit));
  input.catch(() => undefined);
}

/** Presses the middle of what is seen of an element, as a mouse does; what lies over it is waited for, and said where it stays. */
export async function pressElement(tab: Tab, element: ScreenElement): Promise<void> {
  const { page, cdp } = tab;
  await scrollTo(tab, element);
  let over: unknown = null;
  for (let tries = 0; tries < TRIES; tries += 1) {
    over = await callOn(tab, element, WHAT_IS_OVER);
    if (over === null) break;
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
  }
  if (over !== null)
    throw new CannotAct(`“${element.name || element.text}” cannot be pressed: ${String(over) || 'something'} lies over it.`);
  const { quads } = await cdp.send('DOM.getContentQuads', { backendNodeId: element.handle }).catch(() => ({ quads: [] }));
  const quad = quads[0];
  if (!quad) throw new CannotAct(`“${element.name || element.text}” went away before it could be pressed.`);
  const [x1 = 0, y1 = 0, , , x2 = 0, y2 = 0] = quad;
  await deliver(page.mouse.click((x1 + x2) / 2, (y1 + y2) / 2));
}

/** What has no place of its own cannot be scrolled to; the act that follows says what is wrong with it. */
const scrollTo = ({ cdp }: Tab, { handle }: ScreenElement) =>
  cdp.send('DOM.scrollIntoViewIfNeeded', { backendNodeId: handle }).catch(() => undefined);

/** Puts a value into a field as typing does, and leaves the field, so that the application takes notice. A field that does not take it is said. */
export async function fillElement(tab: Tab, element: ScreenElement, value: string): Promise<void> {
  if (element.role === 'combobox' && element.options.length > 0) return pickOption(tab, element, value);
  if (SET_BY_VALUE.has(element.kind)) return setValue(tab, element, value);
  const { cdp, page } = tab;
  await scrollTo(tab, element);
  // What cannot be given the focus takes it when it is pressed.
  await cdp.send('DOM.focus', { backendNodeId: element.handle }).catch(() => pressElement(tab, element));
  await callOn(tab, element, SELECT_ALL);
  if (value === '') await deliver(page.keyboard.press('Delete'));
  else await cdp.send('Input.insertText', { text: value });
  const holds = String((await callOn(tab, element, READ)) ?? '');
  if (toSigns(holds) !== toSigns(value) && !element.isSecret)
    throw new CannotAct(
      `“${element.name || element.label}” does not take “${value}”; it holds ${holds === '' ? 'nothing' : `“${holds}”`}.`,
    );
  await deliver(page.keyboard.press('Tab'));
  filled.set(tab, element.handle);
}

/** Masks put signs of their own between what is typed. */
const toSigns = (text: string) => text.replace(/[^\p{L}\p{N}]/gu, '').toLowerCase();

/** The field that was filled last: a key that is pressed next goes there. */
const filled = new WeakMap<Tab, number>();

const KEYS: Readonly<Record<string, KeyInput>> = {
  ...{
    enter: 'Enter',
    return: 'Enter',
    escape: 'Escape',
    esc: 'Escape',
    tab: 'Tab',
    space: 'Space',
    delete: 'Delete',
    backspace: 'Backspace',
  },
  ...{ 'arrow down': 'ArrowDown', 'arrow up': 'ArrowUp', 'page down': 'PageDown', 'page up': 'PageUp', home: 'Home', end: 'End' },
};

/** The key of the keyboard that is called so. */
export const findKey = (name: string): KeyInput | undefined => KEYS[foldWords(name)];

/** Presses a key, in the field that was filled last where there is one still. */
export async function pressKey(tab: Tab, key: KeyInput): Promise<void> {
  const field = filled.get(tab);
  // A field that is gone has lost the focus anyway.
  if (field !== undefined) await tab.cdp.send('DOM.focus', { backendNodeId: field }).catch(() => undefined);
  await deliver(tab.page.keyboard.press(key));
}

/** Kinds whose parts are typed one by one, in an order that depends on the language of the browser. */
const SET_BY_VALUE = new Set(['date', 'time', 'datetime-local', 'month', 'week', 'color', 'range']);

/** Picks by the words of an option: in a list, among boxes of a group, or in one box by yes and no. */
export async function pickOption(tab: Tab, element: ScreenElement, value: string): Promise<void> {
  if (element.role !== 'combobox' && element.role !== 'listbox') {
    const wantsOn = !/^(no|off|false|unticked)$/i.test(value.trim());
    if (element.isChecked !== wantsOn) await pressElement(tab, element);
    return;
  }
  const wanted = foldWords(value);
  const at = element.options.findIndex((option) => foldWords(option) === wanted);
  if (at < 0) {
    const there = element.options.filter((option) => option !== '').slice(0, 12);
    throw new CannotAct(
      `“${element.name || element.label}” has no “${value}” to pick; it has ${there.map((one) => `“${one}”`).join(', ')}.`,
    );
  }
  await callOn(tab, element, CHOOSE, at);
}

const SELECT_ALL = `function () {
  if (typeof this.select === 'function') this.select();
  else this.ownerDocument.getSelection()?.selectAllChildren(this);
}`;
const READ = `function () { return 'value' in this ? this.value : this.textContent; }`;
/** Null where a press would meet the element; else the words of what it would meet. */
const WHAT_IS_OVER = `function () {
  const { left, top, width, height } = this.getBoundingClientRect();
  const met = this.getRootNode().elementFromPoint?.(left + width / 2, top + height / 2);
  if (!met || met === this || this.contains(met) || met.contains(this) || met.closest('label')?.control === this) return null;
  if (this.closest('label')?.contains(met)) return null;
  return (met.innerText || met.getAttribute('aria-label') || met.tagName.toLowerCase()).trim().slice(0, 60);
}`;
const CHOOSE = `function (at) {
  const option = this.options[at];
  if (this.multiple) option.selected = true;
  else this.selectedIndex = at;
  this.dispatchEvent(new Event('input', { bubbles: true, composed: true }));
  this.dispatchEvent(new Event('change', { bubbles: true }));
}`;
const SET_VALUE = `function (value) {
  const setter = Object.getOwnPropertyDescriptor(Object.getPrototypeOf(this), 'value').set;
  setter.call(this, value);
  this.dispatchEvent(new Event('input', { bubbles: true, composed: true }));
  this.dispatchEvent(new Event('change', { bubbles: true }));
  return this.value;
}`;

async function setValue(tab: Tab, element: ScreenElement, value: string): Promise<void> {
  if ((await callOn(tab, element, SET_VALUE, value)) === '' && value !== '')
    throw new CannotAct(`“${element.name || element.label}” takes a ${element.kind}; “${value}” is none.`);
}

async function callOn(
  { cdp }: Tab,
  { handle, name, label }: ScreenElement,
  functionDeclaration: string,
  ...given: unknown[]
): Promise<unknown> {
  const { object } = await cdp.send('DOM.resolveNode', { backendNodeId: handle }).catch(() => {
    throw new CannotAct(`“${name || label}” went away before anything could be put in.`);
  });
  const { result } = await cdp.send('Runtime.callFunctionOn', {
    ...{ functionDeclaration, objectId: object.objectId ?? '', returnByValue: true },
    arguments: given.map((value) => ({ value })),
  });
  return result.value;
}
