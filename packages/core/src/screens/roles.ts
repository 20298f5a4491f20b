import type { ScreenNode } from './screen-node.ts';

/** Roles that an element has by itself (W3C, HTML Accessibility API Mappings 1.0), where it depends on nothing else. */
const BY_TAG: Readonly<Record<string, string>> = {
  ...{ article: 'article', aside: 'complementary', button: 'button', datalist: 'listbox', dd: 'definition', details: 'group', dfn: 'term' },
  ...{
    dialog: 'dialog',
    dt: 'term',
    fieldset: 'group',
    figure: 'figure',
    form: 'form',
    hr: 'separator',
    iframe: 'document',
    li: 'listitem',
  },
  ...{ main: 'main', math: 'math', menu: 'list', meter: 'meter', nav: 'navigation', ol: 'list', optgroup: 'group', option: 'option' },
  ...{ output: 'status', p: 'paragraph', progress: 'progressbar', search: 'search', section: 'region', table: 'table', tbody: 'rowgroup' },
  ...{
    td: 'cell',
    textarea: 'textbox',
    tfoot: 'rowgroup',
    thead: 'rowgroup',
    tr: 'row',
    ul: 'list',
    footer: 'contentinfo',
    header: 'banner',
  },
  ...{ summary: 'button', svg: 'img', img: 'img', caption: 'caption', label: 'label', legend: 'legend', body: 'document' },
};

const BY_INPUT: Readonly<Record<string, string>> = {
  ...{ button: 'button', submit: 'button', reset: 'button', image: 'button', checkbox: 'checkbox', radio: 'radio', range: 'slider' },
  ...{ number: 'spinbutton', search: 'searchbox', hidden: '', file: 'button', color: 'button' },
};

/** The role of an element: what it says itself, else what HTML says of it; `` where neither says anything. */
export function getRole({ tag, attributes }: ScreenNode): string {
  if (attributes['role'] !== undefined) {
    const said = attributes['role'].trim().toLowerCase().split(/\s+/)[0] ?? '';
    if (said === 'none' || said === 'presentation') return '';
    if (said !== '') return said;
  }
  if (tag === 'input') return getInputRole(attributes);
  if (tag === 'a' || tag === 'area') return attributes['href'] === undefined ? '' : 'link';
  if (tag === 'select') return attributes['multiple'] !== undefined || Number(attributes['size'] ?? 0) > 1 ? 'listbox' : 'combobox';
  if (tag === 'th') return attributes['scope'] === 'row' || attributes['scope'] === 'rowgroup' ? 'rowheader' : 'columnheader';
  if (/^h[1-6]$/.test(tag)) return 'heading';
  if (attributes['contenteditable'] !== undefined && attributes['contenteditable'] !== 'false') return 'textbox';
  return BY_TAG[tag] ?? '';
}

function getInputRole(attributes: ScreenNode['attributes']): string {
  const type = (attributes['type'] ?? 'text').toLowerCase();
  const plain = BY_INPUT[type] ?? 'textbox';
  return attributes['list'] !== undefined && (plain === 'textbox' || plain === 'searchbox') ? 'combobox' : plain;
}

/** Depth of a heading; 0 for all else. */
export function getLevel({ tag, attributes }: ScreenNode, role: string): number {
  if (role !== 'heading') return 0;
  return Number(attributes['aria-level'] ?? /^h([1-6])$/.exec(tag)?.[1] ?? 2);
}

const NAMED_BY_CONTENT = new Set([
  ...[
    'button',
    'cell',
    'checkbox',
    'columnheader',
    'gridcell',
    'heading',
    'link',
    'menuitem',
    'menuitemcheckbox',
    'menuitemradio',
    'option',
  ],
  ...['radio', 'row', 'rowheader', 'switch', 'tab', 'tooltip', 'treeitem'],
]);
/** Whether what an element holds is its name (WAI-ARIA 1.2, name from content). */
export const isNamedByContent = (role: string): boolean => NAMED_BY_CONTENT.has(role);

const FIELDS = new Set(['textbox', 'searchbox', 'spinbutton', 'combobox', 'listbox', 'slider', 'checkbox', 'radio', 'switch']);
/** Whether people put something into it. */
export const isField = (role: string): boolean => FIELDS.has(role);
