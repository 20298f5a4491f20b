import type { BpmnElement } from './bpmn.ts';

/**
 * Flow elements in the order in which they can be reached: each after all that flow into it (Kahn 1962), those free at the same
 * time in the order of the file; where the flow goes round in a circle, the first of the file goes on. Cost O(n²) at worst, for
 * the search of the first free one; n is one process.
 */
export function sortByFlow(elements: readonly BpmnElement[]): BpmnElement[] {
  const nodes = elements.filter((element) => !element.$instanceOf('bpmn:SequenceFlow') && !element.$instanceOf('bpmn:DataObject'));
  const place = new Map(nodes.map((node, index) => [node.id ?? '', index]));
  const after: number[][] = nodes.map(() => []);
  const waits = nodes.map(() => 0);
  for (const flow of elements) {
    const from = place.get(flow.sourceRef?.id ?? '');
    const to = place.get(flow.targetRef?.id ?? '');
    if (from === undefined || to === undefined || from === to) continue;
    after[from]?.push(to);
    waits[to] = (waits[to] ?? 0) + 1;
  }
  const isDone = nodes.map(() => false);
  const ordered: BpmnElement[] = [];
  while (ordered.length < nodes.length) {
    const free = waits.findIndex((count, index) => count === 0 && !isDone[index]);
    const next = free >= 0 ? free : isDone.findIndex((done, index) => !done && isReached(index));
    const at = next >= 0 ? next : isDone.indexOf(false);
    isDone[at] = true;
    const node = nodes[at];
    if (node) ordered.push(node);
    for (const to of after[at] ?? []) waits[to] = Math.max(0, (waits[to] ?? 0) - 1);
  }
  return ordered;

  /** In a circle, what something done leads to goes before what nothing leads to yet. */
  function isReached(index: number): boolean {
    return after.some((targets, from) => isDone[from] === true && targets.includes(index));
  }
}
