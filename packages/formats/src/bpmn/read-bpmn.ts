import type { MapEntry } from '@kindred-baton/core/imports/map-table';
import type { BpmnElement, BpmnLane } from './bpmn.ts';
import { OWN_FIELDS, PREFIX } from './bpmn.ts';
import { parseBpmn } from './parse-bpmn.ts';
import { sortByFlow } from './sort-by-flow.ts';

export type BpmnReading =
  | {
      readonly ok: true;
      readonly entries: readonly MapEntry[];
      /** What is odd, but could be read all the same. */ readonly warnings: readonly string[];
    }
  | { readonly ok: false; readonly message: string };

const MAX_ELEMENTS = 60_000;

/**
 * Reads BPMN 2.0 XML (OMG formal/2013-12-09) as a process list: a process or pool is a node, its subprocesses and call
 * activities are nodes below it, tasks are activities in flow order; lanes say the team, and a pool without lanes does. Files
 * that are not valid against the schema are read as far as they go, with warnings. Never throws. Cost O(elements log elements).
 */
export async function readBpmn(bytes: Uint8Array): Promise<BpmnReading> {
  const parsed = await parseBpmn(bytes);
  if (!parsed.ok) return parsed;
  const { roots } = parsed;
  const reader = createReader(roots);
  for (const { process, pool } of listProcesses(roots)) reader.readProcess(process, pool);
  if (reader.entries.length === 0) return { ok: false, message: 'There is no process in the file.' };
  // Calls of processes that call others unfold to far more than the file holds: reading stops there.
  if (reader.entries.length > MAX_ELEMENTS)
    return {
      ok: false,
      message: `The file has more than ${MAX_ELEMENTS.toLocaleString('en')} processes and tasks, those that are called counted wherever they are.`,
    };
  return { ok: true, entries: reader.entries, warnings: parsed.warnings };
}

interface PooledProcess {
  readonly process: BpmnElement;
  readonly pool: string | null;
}

/** Processes in the order of their pools, then those that no pool shows; those that are only called stand where they are called. */
function listProcesses(roots: readonly BpmnElement[]): PooledProcess[] {
  const pools = roots.flatMap((root) => root.participants ?? []);
  const pooled = pools.flatMap(({ processRef, name }) => (processRef?.$type ? [{ process: processRef, pool: name ?? null }] : []));
  const called = new Set(listCalls(roots));
  const shown = new Set(pooled.map(({ process }) => process.id));
  const others = roots.filter((root) => root.$instanceOf('bpmn:Process') && !shown.has(root.id) && !called.has(root.id ?? ''));
  return [...pooled, ...others.map((process) => ({ process, pool: null }))];
}

function listCalls(elements: readonly BpmnElement[]): string[] {
  return elements.flatMap(({ calledElement, flowElements }) => [
    ...(calledElement ? [calledElement] : []),
    ...listCalls(flowElements ?? []),
  ]);
}

const isActivity = (element: BpmnElement) =>
  element.$instanceOf('bpmn:Task') || element.$instanceOf('bpmn:SubProcess') || element.$instanceOf('bpmn:CallActivity');

function createReader(roots: readonly BpmnElement[]) {
  const entries: MapEntry[] = [];
  const processes = new Map(roots.filter((root) => root.$instanceOf('bpmn:Process')).map((root) => [root.id ?? '', root]));
  const add = (element: BpmnElement, { name, parent, team }: { name: string; parent: number; team: string | undefined }) => {
    const own = element.$attrs ?? {};
    const fields: Record<string, string | boolean> = {};
    const description = (element.documentation ?? [])
      .map((documentation) => documentation.text ?? '')
      .join('\n\n')
      .trim();
    if (description !== '') fields['description'] = description;
    if (team !== undefined) fields['team'] = team;
    for (const field of OWN_FIELDS) {
      const value = own[`${PREFIX}:${field}`];
      if (value !== undefined) fields[field] = field === 'critical' || field === 'retired' ? value === 'true' : value;
    }
    const place = { sheet: 'BPMN', column: `element ${element.id ?? name}` };
    return entries.push({ place, code: own[`${PREFIX}:code`] ?? null, name, parent, outerParent: null, fields }) - 1;
  };
  const readInside = (holder: BpmnElement, parent: number, { team, open }: { team: string | undefined; open: readonly string[] }) => {
    const teams = new Map<string, string>();
    for (const { lanes } of holder.laneSets ?? []) collectTeams(lanes ?? [], teams);
    for (const element of sortByFlow(holder.flowElements ?? []).filter(isActivity)) {
      if (entries.length > MAX_ELEMENTS) return;
      const name = (element.name ?? '').replace(/\s+/g, ' ').trim() || (element.id ?? 'Activity');
      const own = teams.get(element.id ?? '') ?? team;
      const at = add(element, { name, parent, team: own });
      const called = element.calledElement === undefined ? undefined : processes.get(element.calledElement);
      // A process that calls itself is not followed for ever.
      const inside = called && !open.includes(called.id ?? '') ? called : element;
      readInside(inside, at, { team: own, open: called ? [...open, called.id ?? ''] : open });
    }
  };
  const readProcess = (process: BpmnElement, pool: string | null) => {
    const name = (pool ?? process.name ?? '').replace(/\s+/g, ' ').trim() || (process.id ?? 'Process');
    const isOurs = process.$attrs?.[`${PREFIX}:code`] !== undefined;
    const hasLanes = (process.laneSets ?? []).some(({ lanes }) => (lanes ?? []).length > 0);
    const own = process.$attrs?.[`${PREFIX}:team`];
    const at = add(process, { name, parent: -1, team: own });
    readInside(process, at, { team: !isOurs && !hasLanes && pool !== null ? name : undefined, open: [process.id ?? ''] });
  };
  return { entries: entries as readonly MapEntry[], readProcess };
}

/** A lane inside a lane says the team more exactly. */
function collectTeams(lanes: readonly BpmnLane[], teams: Map<string, string>): void {
  for (const lane of lanes) {
    const name = (lane.name ?? '').replace(/\s+/g, ' ').trim();
    if (name !== '') for (const node of lane.flowNodeRef ?? []) teams.set(node.id ?? '', name);
    collectTeams(lane.childLaneSet?.lanes ?? [], teams);
  }
}
