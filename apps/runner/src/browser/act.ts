import type { ScreenElement } from '@kindred-baton/core/screens/capture';
import { foldWords } from '@kindred-baton/core/screens/capture';
import type { KeyInput } from 'puppeteer-core';
import type { Tab } from './open-tab.ts';

/** Something in the browser that kept an act from being done, as a sentence. */
export class CannotAct extends Error {}

/** Presses the middle of what is seen of an element, as a mouse does. */
export async function pressElement({ page, cdp }: Tab, { handle, name, text }: ScreenElement): Promise<void> {
  await cdp.send('DOM.scrollIntoViewIfNeeded', { backendNodeId: handle }).catch(() => undefined);
  const { quads } = await cdp.send('DOM.getContentQuads', { backendNodeId: handle }).catch(() => ({ quads: [] }));
  const quad = quads[0];
  if (!quad) throw new CannotAct(`“${name || text}” went away before it could be pressed.`);
  const [x1 = 0, y1 = 0, , , x2 = 0, y2 = 0] = quad;
  await page.mouse.click((x1 + x2) / 2, (y1 + y2) / 2);
}

/** Puts a value into a field as typing does, and leaves the field, so that the application takes notice. */
export async function fillElement(tab: Tab, element: ScreenElement, value: string): Promise<void> {
  if (element.role === 'combobox' && element.options.length > 0) return pickOption(tab, element, value);
  if (SET_BY_VALUE.has(element.kind)) return setValue(tab, element, value);
  const { cdp, page } = tab;
  await cdp.send('DOM.scrollIntoViewIfNeeded', { backendNodeId: element.handle }).catch(() => undefined);
  await cdp.send('DOM.focus', { backendNodeId: element.handle }).catch(() => pressElement(tab, element));
  await callOn(tab, element, SELECT_ALL);
  if (value === '') await page.keyboard.press('Delete');
  else await cdp.send('Input.insertText', { text: value });
  await page.keyboard.press('Tab');
  filled.set(tab, element.handle);
}

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
  await tab.page.keyboard.press(key);
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
