import type { OutlineNode, OutlineTree } from '@kindred-baton/core/map/outline';

/** Where an element is drawn; a flow goes from its left top to its right bottom corner. Units: the drawing’s own, about pixels. */
export interface Box {
  readonly element: string;
  readonly kind: 'task' | 'inside' | 'event' | 'flow' | 'pool';
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
}

const TASK = { width: 140, height: 80 };
const EVENT = 36;
const GAP = 40;
const PAD = 40;
const POOL_HEAD = 30;

/** Draws each process as a row from its start to its end, subprocesses opened around what is in them. Cost O(nodes). */
export function layOutBoxes(tree: OutlineTree<OutlineNode>, tops: readonly OutlineNode[], hasPools: boolean): Box[] {
  const boxes: Box[] = [];
  let y = PAD;
  for (const top of tops) {
    const size = measure(tree, top);
    if (hasPools) boxes.push({ element: `Pool_${top.code}`, kind: 'pool', x: PAD, y, width: size.width + POOL_HEAD, height: size.height });
    drawInside(tree, top, { x: PAD + (hasPools ? POOL_HEAD : 0), y, height: size.height }, boxes);
    y += size.height + GAP;
  }
  return boxes;
}

function measure(tree: OutlineTree<OutlineNode>, node: OutlineNode): { width: number; height: number } {
  const inside = tree.childrenOf.get(node.id) ?? [];
  if (inside.length === 0) return TASK;
  const sizes = inside.map((child) => measure(tree, child));
  return {
    width: PAD * 2 + (EVENT + GAP) * 2 + sizes.reduce((sum, { width }) => sum + width, 0) + GAP * (sizes.length - 1),
    height: PAD * 2 + Math.max(...sizes.map(({ height }) => height)),
  };
}

interface Room {
  readonly x: number;
  readonly y: number;
  readonly height: number;
}

function drawInside(tree: OutlineTree<OutlineNode>, holder: OutlineNode, { x, y, height }: Room, boxes: Box[]): void {
  const inside = tree.childrenOf.get(holder.id) ?? [];
  if (inside.length === 0) return;
  const middle = y + height / 2;
  const event = (element: string, at: number) =>
    boxes.push({ element, kind: 'event', x: at, y: middle - EVENT / 2, width: EVENT, height: EVENT });
  const flow = (index: number, at: number) =>
    boxes.push({ element: `Flow_${holder.code}_${index}`, kind: 'flow', x: at, y: middle, width: GAP, height: 0 });
  let at = x + PAD;
  event(`Start_${holder.code}`, at);
  at += EVENT;
  for (const [index, node] of inside.entries()) {
    flow(index, at);
    at += GAP;
    const size = measure(tree, node);
    const hasInside = (tree.childrenOf.get(node.id) ?? []).length > 0;
    boxes.push({ element: `Node_${node.code}`, kind: hasInside ? 'inside' : 'task', x: at, y: middle - size.height / 2, ...size });
    drawInside(tree, node, { x: at, y: middle - size.height / 2, height: size.height }, boxes);
    at += size.width;
  }
  flow(inside.length, at);
  event(`End_${holder.code}`, at + GAP);
}
