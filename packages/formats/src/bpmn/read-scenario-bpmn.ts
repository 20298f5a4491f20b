import type { WireSource } from '@kindred-baton/core/scenarios/chain';
import type { FileLeg, ScenarioFile } from '@kindred-baton/core/scenarios/scenario-file';
import type { Field, FieldType } from '@kindred-baton/core/values/field';
import { FIELD_TYPES, guessFieldType, toNameKey } from '@kindred-baton/core/values/field';
import type { ScenarioReading } from '../scenarios/scenario-tables.ts';
import type { BpmnElement, BpmnLane } from './bpmn.ts';
import { PREFIX } from './bpmn.ts';
import { parseBpmn } from './parse-bpmn.ts';
import { sortByFlow } from './sort-by-flow.ts';

const MOST_LEGS = 1_000;

/** The further parts of an element that a scenario reads. */
interface FlowElement extends BpmnElement {
  readonly flowElements?: readonly FlowElement[];
  readonly sourceRef?: FlowElement;
  readonly targetRef?: FlowElement;
  readonly ioSpecification?: { readonly dataInputs?: readonly FlowElement[]; readonly dataOutputs?: readonly FlowElement[] };
  readonly dataInputAssociations?: readonly Association[];
  readonly dataOutputAssociations?: readonly Association[];
  readonly dataObjectRef?: BpmnElement;
  readonly extensionElements?: { readonly values?: readonly Extension[] };
}

interface Association {
  readonly sourceRef?: readonly BpmnElement[] | BpmnElement;
  readonly targetRef?: BpmnElement;
}

/** An element of our own namespace: its attributes lie beside its children. */
interface Extension {
  readonly $type: string;
  readonly $children?: readonly Extension[];
  readonly [attribute: string]: unknown;
}

/**
 * Reads BPMN 2.0 XML as a scenario: a task (subprocess, call activity) is a leg, in flow order; lanes, or pools without lanes, say who; what
 * a leg comes after follows from the flows, over gateways and events; data associations say what it needs and gives. Ways back are cut,
 * decisions are kept as legs of both ways, and both are told. Never throws. Cost O(elements²) for the search of ways over gateways.
 */
export async function readScenarioBpmn(bytes: Uint8Array): Promise<ScenarioReading> {
  const parsed = await parseBpmn(bytes);
  if (!parsed.ok) return parsed;
  const roots = parsed.roots as readonly FlowElement[];
  const pools = roots.flatMap((root) => (root.participants ?? []) as readonly (BpmnElement & { processRef?: FlowElement })[]);
  const processes = roots.filter((root) => root.$instanceOf('bpmn:Process'));
  const poolOf = new Map(pools.flatMap((pool) => (pool.processRef?.id ? [[pool.processRef.id, clean(pool.name)] as const] : [])));
  const [main] = processes;
  const isOurs = main?.$attrs?.[`${PREFIX}:scenario`] !== undefined;
  // What we wrote stands in the order of its legs.
  const elements = processes.flatMap((process) =>
    isOurs ? (process.flowElements ?? []) : (sortByFlow(process.flowElements ?? []) as FlowElement[]),
  );
  const tasks = elements.filter(isTask);
  if (tasks.length === 0) return { ok: false, message: 'There is no task in the file, so there is no leg to take.' };
  if (tasks.length > MOST_LEGS)
    return { ok: false, message: `The file has ${tasks.length} tasks; a scenario has at most ${MOST_LEGS} legs.` };
  const warnings = [...parsed.warnings, ...describeGateways(elements)];
  const lanes = collectLanes(processes, isOurs ? new Map() : poolOf);
  const before = findPredecessors(processes, tasks, warnings);
  const values = collectValues(tasks);
  const legs = tasks.map((task, index): FileLeg => {
    const own = readOwn(task);
    return {
      ...readSettings(task, own),
      lane: own['leg'] === undefined ? (lanes.get(task.id ?? '') ?? null) : (own['lane'] ?? null),
      after: own['leg'] === undefined ? toAfter(before.get(task.id ?? '') ?? [], tasks[index - 1]) : toKeys(own['after']),
      ...readFields(task, values),
    };
  });
  const name = clean(pools[0]?.name) || clean(main?.name) || null;
  const head = { code: main?.$attrs?.[`${PREFIX}:scenario`] ?? null, name, node: main?.$attrs?.[`${PREFIX}:node`] ?? null };
  return { ok: true, warnings, file: withKeys({ ...head, legs, data: readData(main) }, tasks) };
}

const clean = (text: string | undefined) => (text ?? '').replace(/\s+/g, ' ').trim();
const isTask = (element: FlowElement) =>
  element.$instanceOf('bpmn:Task') || element.$instanceOf('bpmn:SubProcess') || element.$instanceOf('bpmn:CallActivity');

function readOwn(element: BpmnElement): Record<string, string | undefined> {
  const own = Object.entries(element.$attrs ?? {}).filter(([name]) => name.startsWith(`${PREFIX}:`));
  return Object.fromEntries(own.map(([name, value]) => [name.slice(PREFIX.length + 1), value]));
}

const toKeys = (text: string | undefined) => (text === undefined ? null : text.split(' ').filter((part) => part !== ''));

function readSettings(
  task: FlowElement,
  own: Record<string, string | undefined>,
): Omit<FileLeg, 'lane' | 'after' | 'needs' | 'gives' | 'wires'> {
  const note = (task.documentation ?? [])
    .map(({ text }) => text ?? '')
    .join('\n\n')
    .trim();
  const days = Number(own['waitDays'] ?? 0);
  return {
    ...{ key: task.id ?? '', test: own['test'] ?? null, persona: own['persona'] ?? null, note },
    version: /^\d+$/.test(own['version'] ?? '') ? Number(own['version']) : null,
    title: own['leg'] === undefined ? clean(task.name) || 'Without words' : (own['words'] ?? null),
    waitDays: Number.isInteger(days) && days >= 0 && days <= 366 ? days : 0,
    samePersonAs: own['samePersonAs'] ?? null,
    otherPersonThan: toKeys(own['otherPersonThan']) ?? [],
  };
}

/** Within the file legs are named by their tasks; outside by the key that we gave them. */
function withKeys(file: ScenarioFile, tasks: readonly FlowElement[]): ScenarioFile {
  const keyOf = new Map(tasks.map((task) => [task.id ?? '', readOwn(task)['leg'] ?? task.id ?? '']));
  const toKey = (id: string) => keyOf.get(id) ?? id;
  return {
    ...file,
    legs: file.legs.map((leg) => ({
      ...leg,
      key: toKey(leg.key),
      after: leg.after?.map(toKey) ?? null,
      samePersonAs: leg.samePersonAs === null ? null : toKey(leg.samePersonAs),
      otherPersonThan: leg.otherPersonThan.map(toKey),
      wires: leg.wires.map(({ need, from }) => ({ need, from: from.kind === 'leg' ? { ...from, leg: toKey(from.leg) } : from })),
    })),
  };
}

/** A lane inside a lane says the team more exactly; a pool without lanes is one. */
function collectLanes(processes: readonly FlowElement[], poolOf: ReadonlyMap<string, string>): Map<string, string> {
  const found = new Map<string, string>();
  const visit = (lanes: readonly BpmnLane[]) => {
    for (const lane of lanes) {
      const name = clean(lane.name);
      if (name !== '') for (const node of lane.flowNodeRef ?? []) found.set(node.id ?? '', name);
      visit(lane.childLaneSet?.lanes ?? []);
    }
  };
  for (const process of processes) {
    const pool = poolOf.get(process.id ?? '') ?? '';
    if (pool !== '') for (const element of process.flowElements ?? []) found.set(element.id ?? '', pool);
    for (const { lanes } of process.laneSets ?? []) visit(lanes ?? []);
  }
  return found;
}

function describeGateways(elements: readonly FlowElement[]): string[] {
  return elements
    .filter(
      (element) =>
        element.$instanceOf('bpmn:ExclusiveGateway') ||
        element.$instanceOf('bpmn:InclusiveGateway') ||
        element.$instanceOf('bpmn:ComplexGateway'),
    )
    .filter((gateway) => elements.some((each) => each.$instanceOf('bpmn:Task')) && clean(gateway.name) !== '')
    .map((gateway) => `“${clean(gateway.name)}” decides between ways. A scenario goes one of them: take out the legs of the others.`);
}

/** The tasks before each task, over gateways and events; a way that leads back to an earlier task in flow order is cut. */
function findPredecessors(processes: readonly FlowElement[], tasks: readonly FlowElement[], warnings: string[]): Map<string, string[]> {
  const orderOf = new Map(tasks.map((task, index) => [task.id ?? '', index]));
  const nameOf = new Map(tasks.map((task) => [task.id ?? '', clean(task.name)]));
  const into = new Map<string, string[]>();
  for (const flow of processes
    .flatMap(({ flowElements }) => flowElements ?? [])
    .filter((element) => element.$instanceOf('bpmn:SequenceFlow'))) {
    const [from, to] = [flow.sourceRef?.id, flow.targetRef?.id];
    if (from !== undefined && to !== undefined) into.set(to, [...(into.get(to) ?? []), from]);
  }
  const found = new Map<string, string[]>();
  for (const task of tasks) {
    const id = task.id ?? '';
    const before = new Set<string>();
    const seen = new Set<string>();
    const stack = [...(into.get(id) ?? [])];
    for (let at = stack.pop(); at !== undefined; at = stack.pop()) {
      if (seen.has(at)) continue;
      seen.add(at);
      if (orderOf.has(at)) before.add(at);
      else stack.push(...(into.get(at) ?? []));
    }
    const mine = orderOf.get(id) ?? 0;
    for (const other of before) {
      if ((orderOf.get(other) ?? 0) < mine) continue;
      before.delete(other);
      warnings.push(`The way back from “${nameOf.get(other)}” to “${nameOf.get(id)}” is left out: a scenario does not go round.`);
    }
    found.set(
      id,
      [...before].sort((a, b) => (orderOf.get(a) ?? 0) - (orderOf.get(b) ?? 0)),
    );
  }
  return found;
}

/** The leg before it, and that alone, is what a leg waits for anyway. */
function toAfter(before: readonly string[], previous: FlowElement | undefined): string[] | null {
  const isUsual = previous === undefined ? before.length === 0 : before.length === 1 && before[0] === previous.id;
  return isUsual ? null : [...before];
}

/** What a data object is called, by its id. */
function collectValues(tasks: readonly FlowElement[]): Map<string, string> {
  const names = new Map<string, string>();
  for (const task of tasks)
    for (const { sourceRef, targetRef } of [...(task.dataInputAssociations ?? []), ...(task.dataOutputAssociations ?? [])])
      for (const each of [...[sourceRef ?? []].flat(), ...(targetRef ? [targetRef] : [])])
        if (each.id !== undefined && clean(each.name) !== '') names.set(each.id, clean(each.name));
  return names;
}

function readFields(task: FlowElement, values: ReadonlyMap<string, string>): Pick<FileLeg, 'needs' | 'gives' | 'wires'> {
  const inputs = task.ioSpecification?.dataInputs ?? [];
  const outputs = task.ioSpecification?.dataOutputs ?? [];
  const isLinked = readOwn(task)['test'] !== undefined;
  const taken = (task.dataInputAssociations ?? [])
    .flatMap(({ sourceRef }) => [sourceRef ?? []].flat())
    .flatMap(({ id }) => values.get(id ?? '') ?? []);
  const handed = (task.dataOutputAssociations ?? []).flatMap(({ targetRef }) => values.get(targetRef?.id ?? '') ?? []);
  const wires = [
    ...inputs.flatMap((input) => toWire(clean(input.name), readOwn(input))),
    ...(task.extensionElements?.values ?? [])
      .filter(({ $type }) => $type === `${PREFIX}:wire`)
      .flatMap((wire) => toWire(textOf(wire, 'need'), asOwn(wire))),
  ];
  return {
    wires,
    // What a test needs and gives is the test’s own.
    needs: isLinked ? [] : toFields([...inputs.map(toNamed), ...taken.map((name) => ({ name, own: {} }))]),
    gives: isLinked ? [] : toFields([...outputs.map(toNamed), ...handed.map((name) => ({ name, own: {} }))]),
  };
}

interface NamedField {
  readonly name: string;
  readonly own: Record<string, string | undefined>;
}

const toNamed = (element: BpmnElement): NamedField => ({ name: clean(element.name), own: readOwn(element) });
const textOf = (extension: Extension, name: string) => (typeof extension[name] === 'string' ? (extension[name] as string) : '');

function asOwn(extension: Extension): Record<string, string | undefined> {
  return Object.fromEntries(Object.entries(extension).filter((entry): entry is [string, string] => typeof entry[1] === 'string'));
}

function toFields(named: readonly NamedField[]): Field[] {
  const fields = new Map<string, Field>();
  for (const { name, own } of named) if (name !== '' && !fields.has(toNameKey(name))) fields.set(toNameKey(name), toField(name, own));
  return [...fields.values()];
}

function toField(name: string, { type, choices, pattern, required, example }: Record<string, string | undefined>): Field {
  return {
    ...{ name, type: FIELD_TYPES.find((each): each is FieldType => each === type) ?? guessFieldType(name) },
    ...(choices === undefined ? {} : { choices: choices.split('|') }),
    ...(pattern === undefined ? {} : { pattern }),
    ...(required === undefined ? (type === undefined ? { required: true } : {}) : { required: required === 'true' }),
    ...(example === undefined ? {} : { example }),
  };
}

function toWire(need: string, own: Record<string, string | undefined>): FileLeg['wires'] {
  const from = toSource(own);
  return need === '' || !from ? [] : [{ need, from }];
}

function toSource({
  from,
  fromLeg = '',
  output = '',
  convert,
  column = '',
  value = '',
  pattern = '',
}: Record<string, string | undefined>): WireSource | null {
  if (from === 'leg') return { kind: 'leg', leg: fromLeg, gives: output, ...(convert === 'true' ? { convert: true } : {}) };
  if (from === 'column') return { kind: 'column', column };
  if (from === 'fixed') return { kind: 'fixed', value };
  return from === 'new' ? { kind: 'new', pattern } : null;
}

function readData(process: FlowElement | undefined): ScenarioFile['data'] {
  const data = process?.extensionElements?.values?.find(({ $type }) => $type === `${PREFIX}:data`);
  if (!data) return null;
  const children = data.$children ?? [];
  return {
    columns: children.filter(({ $type }) => $type === `${PREFIX}:column`).map((column) => toField(textOf(column, 'name'), asOwn(column))),
    rows: children
      .filter(({ $type }) => $type === `${PREFIX}:row`)
      .map((row) => ({
        name: textOf(row, 'name'),
        values: Object.fromEntries((row.$children ?? []).map((value) => [textOf(value, 'name'), textOf(value, 'text')])),
      })),
  };
}
