import type { Capture } from './capture.ts';
import { createCapture } from './create-capture.ts';
import type { ScreenNode } from './screen-node.ts';

/** What stands on a made screen: a tag with attributes, words or others in it, and where. */
export interface Made {
  readonly tag: string;
  readonly attributes?: Readonly<Record<string, string>>;
  readonly holds?: readonly (Made | string)[];
  readonly at?: readonly [x: number, y: number, width: number, height: number];
  readonly value?: string;
  readonly isHidden?: boolean;
}

/** The nodes of a made page; what says nothing of its place stands in the line below what came before. */
function makeNodes(whole: Made): ScreenNode[] {
  const nodes: ScreenNode[] = [];
  let y = 0;
  const add = (made: Made | string, parent: number, isHidden: boolean): void => {
    const plain = { frame: 0, value: '', isChecked: false, isSelected: false, isShown: true, display: '', handle: nodes.length + 1 };
    if (typeof made === 'string') {
      nodes.push({ ...plain, parent, tag: '#text', text: made, attributes: {}, box: isHidden ? null : (nodes[parent]?.box ?? null) });
      return;
    }
    const isGone = isHidden || made.isHidden === true;
    const [x = 0, top = (y += 40), width = 200, height = 20] = made.at ?? [];
    const attributes = made.attributes ?? {};
    nodes.push({
      ...{
        ...plain,
        parent,
        tag: made.tag,
        text: '',
        attributes,
        value: made.value ?? '',
        isSelected: attributes['selected'] !== undefined,
      },
      box: isGone ? null : { x, y: top, width, height },
    });
    const own = nodes.length - 1;
    for (const inner of made.holds ?? []) add(inner, own, isGone);
  };
  add({ tag: '#document', holds: [whole] }, -1, false);
  return nodes;
}

export const makeCapture = (...holds: readonly Made[]): Capture =>
  createCapture(makeNodes({ tag: 'body', holds, at: [0, 0, 1280, 2_000] }), {
    address: 'http://x.example/',
    title: 'Quotes – Millrace Billing',
  });
