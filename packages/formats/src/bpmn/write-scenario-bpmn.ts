import { LEG } from '@kindred-baton/core/scenarios/relay';
import type { ExportedScenario, FileLeg } from '@kindred-baton/core/scenarios/scenario-file';
import type { Field } from '@kindred-baton/core/values/field';
import { toNameKey } from '@kindred-baton/core/values/field';
import { layOutExported } from '../scenarios/draw-relay.ts';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP, toAttributes, toLines } from '../xml/markup.ts';
import { NAMESPACE, PREFIX } from './bpmn.ts';

/**
 * Writes a scenario as a BPMN 2.0 collaboration with a drawing: one pool, a lane a team, a task a leg, sequence flows for what waits for
 * what, a data object for each value that is handed over, with its associations. What BPMN has no word for stands in attributes of our own,
 * so that `readScenarioBpmn` makes the same scenario of it.
 */
export function writeScenarioBpmn(scenario: ExportedScenario): string {
  const { file } = scenario;
  return toLines([
    markup`<?xml version="1.0" encoding="UTF-8"?>`,
    markup`<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL" xmlns:bpmndi="http://www.omg.org/spec/BPMN/20100524/DI" xmlns:dc="http://www.omg.org/spec/DD/20100524/DC" xmlns:di="http://www.omg.org/spec/DD/20100524/DI"`,
    markup`  xmlns:${PREFIX}="${NAMESPACE}" id="Definitions" name="${file.name}" targetNamespace="${NAMESPACE}">`,
    markup`  <collaboration id="Collaboration">`,
    markup`    <participant id="Pool" name="${file.name}" processRef="Scenario"/>`,
    markup`  </collaboration>`,
    markup`  <process id="Scenario" name="${file.name}" isExecutable="false"${own({ scenario: file.code, node: file.node ?? undefined })}>`,
    ...writeData(file.data),
    ...writeLanes(scenario),
    ...file.legs.flatMap((leg, index) => writeTask(leg, index, scenario)),
    ...listValues(scenario).flatMap(({ id, name }) => [
      markup`    <dataObject id="${id}_value"/>`,
      markup`    <dataObjectReference id="${id}" name="${name}" dataObjectRef="${id}_value"/>`,
    ]),
    ...listFlows(scenario).map(({ id, from, to }) => markup`    <sequenceFlow id="${id}" sourceRef="${from}" targetRef="${to}"/>`),
    markup`  </process>`,
    ...writeDiagram(scenario),
    markup`</definitions>`,
    NO_MARKUP,
  ]).write();
}

const OWN = `${PREFIX}:`;
const own = (attributes: Readonly<Record<string, string | undefined>>): Markup => toAttributes(attributes, OWN);

const toTaskId = (key: string) => `Leg_${key.replace(/[^A-Za-z0-9_-]/g, '_')}`;
const toValueId = (key: string, name: string) =>
  `Value_${key.replace(/[^A-Za-z0-9_-]/g, '_')}_${toNameKey(name).replace(/[^a-z0-9]/g, '_')}`;

/** Inside an element of our own, attributes need no prefix. */
function describeField({ type, choices, pattern, required, example }: Field, prefix = OWN): Markup {
  const said = { type, choices: choices?.join('|'), pattern, required: required === undefined ? undefined : String(required), example };
  return toAttributes(said, prefix);
}

function writeData(data: ExportedScenario['file']['data']): Markup[] {
  if (!data) return [];
  return [
    markup`    <extensionElements>`,
    markup`      <${PREFIX}:data>`,
    ...data.columns.map((column) => markup`        <${PREFIX}:column name="${column.name}"${describeField(column, '')}/>`),
    ...data.rows.map(({ name, values }) => {
      const cells = Object.entries(values).map(([key, value]) => markup`<${PREFIX}:value name="${key}" text="${value}"/>`);
      return markup`        <${PREFIX}:row name="${name}">${cells}</${PREFIX}:row>`;
    }),
    markup`      </${PREFIX}:data>`,
    markup`    </extensionElements>`,
  ];
}

function writeLanes({ legs, file }: ExportedScenario): Markup[] {
  const lanes = [...new Set(legs.map(({ lane }) => lane ?? ''))];
  return [
    markup`    <laneSet id="Lanes">`,
    ...lanes.map((lane, index) => {
      const refs = file.legs
        .filter((_, at) => (legs[at]?.lane ?? '') === lane)
        .map(({ key }) => markup`<flowNodeRef>${toTaskId(key)}</flowNodeRef>`);
      return markup`      <lane id="Lane_${index}"${toAttributes({ name: lane === '' ? undefined : lane })}>${refs}</lane>`;
    }),
    markup`    </laneSet>`,
  ];
}

function writeTask(leg: FileLeg, index: number, scenario: ExportedScenario): Markup[] {
  const exported = scenario.legs[index];
  const needs = scenario.chain.legs[index]?.needs ?? [];
  const id = toTaskId(leg.key);
  const attributes = own({
    ...{ test: leg.test ?? undefined, version: leg.version?.toString(), lane: leg.lane ?? undefined, persona: leg.persona ?? undefined },
    ...{ words: leg.title ?? undefined, after: leg.after === null ? undefined : leg.after.map(toTaskId).join(' ') },
    waitDays: leg.waitDays > 0 ? String(leg.waitDays) : undefined,
    samePersonAs: leg.samePersonAs === null ? undefined : toTaskId(leg.samePersonAs),
    otherPersonThan: leg.otherPersonThan.length > 0 ? leg.otherPersonThan.map(toTaskId).join(' ') : undefined,
    leg: leg.key,
  });
  const inputs = needs.map(({ need }, at) => ({
    id: `${id}_in_${at}`,
    need,
    wire: leg.wires.find((wire) => toNameKey(wire.need) === toNameKey(need.name)),
  }));
  const lost = leg.wires.filter((wire) => !needs.some(({ need }) => toNameKey(need.name) === toNameKey(wire.need)));
  const flows = listFlows(scenario);
  const outputs = (exported?.gives ?? []).map((field, at) => ({ id: `${id}_out_${at}`, field }));
  return [
    markup`    <task id="${id}" name="${exported?.title ?? leg.title ?? ''}"${attributes}>`,
    ...(leg.note === '' ? [] : [markup`      <documentation>${leg.note}</documentation>`]),
    ...writeLost(lost),
    markup`      ${flows.filter(({ to }) => to === id).map((flow) => markup`<incoming>${flow.id}</incoming>`)}${flows
      .filter(({ from }) => from === id)
      .map((flow) => markup`<outgoing>${flow.id}</outgoing>`)}`,
    ...(inputs.length + outputs.length === 0
      ? []
      : [
          markup`      <ioSpecification id="${id}_io">`,
          ...inputs.map(
            ({ id: at, need, wire }) =>
              markup`        <dataInput id="${at}" name="${need.name}"${describeField(need)}${wire ? describeWire(wire.from) : NO_MARKUP}/>`,
          ),
          ...outputs.map(({ id: at, field }) => markup`        <dataOutput id="${at}" name="${field.name}"${describeField(field)}/>`),
          markup`        <inputSet id="${id}_inputs">${inputs.map(({ id: at }) => markup`<dataInputRefs>${at}</dataInputRefs>`)}</inputSet>`,
          markup`        <outputSet id="${id}_outputs">${outputs.map(({ id: at }) => markup`<dataOutputRefs>${at}</dataOutputRefs>`)}</outputSet>`,
          markup`      </ioSpecification>`,
        ]),
    ...needs.flatMap(({ source }, at) =>
      source.kind === 'leg'
        ? [
            markup`      <dataInputAssociation id="${id}_takes_${at}"><sourceRef>${toValueId(source.leg, source.field.name)}</sourceRef><targetRef>${id}_in_${at}</targetRef></dataInputAssociation>`,
          ]
        : [],
    ),
    ...outputs.flatMap(({ id: at, field }, place) =>
      isHandedOver(scenario, leg.key, field.name)
        ? [
            markup`      <dataOutputAssociation id="${id}_hands_${place}"><sourceRef>${at}</sourceRef><targetRef>${toValueId(leg.key, field.name)}</targetRef></dataOutputAssociation>`,
          ]
        : [],
    ),
    markup`    </task>`,
  ];
}

/** Wires set by hand for a need that the test no longer has. */
function writeLost(wires: FileLeg['wires']): Markup[] {
  if (wires.length === 0) return [];
  const lines = wires.map(({ need, from }) => markup`<${PREFIX}:wire need="${need}"${describeWire(from, '')}/>`);
  return [markup`      <extensionElements>${lines}</extensionElements>`];
}

function describeWire(from: FileLeg['wires'][number]['from'], prefix = OWN): Markup {
  switch (from.kind) {
    case 'leg':
      return toAttributes(
        { from: 'leg', fromLeg: toTaskId(from.leg), output: from.gives, convert: from.convert ? 'true' : undefined },
        prefix,
      );
    case 'column':
      return toAttributes({ from: 'column', column: from.column }, prefix);
    case 'fixed':
      return toAttributes({ from: 'fixed', value: from.value }, prefix);
    case 'new':
      return toAttributes({ from: 'new', pattern: from.pattern }, prefix);
  }
}

function listValues({ chain }: ExportedScenario): { id: string; name: string }[] {
  const values = new Map<string, string>();
  for (const { needs } of chain.legs)
    for (const { source } of needs) if (source.kind === 'leg') values.set(toValueId(source.leg, source.field.name), source.field.name);
  return [...values].map(([id, name]) => ({ id, name }));
}

const isHandedOver = (scenario: ExportedScenario, key: string, name: string) =>
  listValues(scenario).some(({ id }) => id === toValueId(key, name));

interface Flow {
  readonly id: string;
  readonly from: string;
  readonly to: string;
}

function listFlows({ chain }: ExportedScenario): Flow[] {
  return chain.legs.flatMap(({ leg, after }) =>
    after.flatMap((index) => {
      const from = chain.legs[index]?.leg.id;
      return from === undefined ? [] : [{ id: `Flow_${toTaskId(from)}_${toTaskId(leg.id)}`, from: toTaskId(from), to: toTaskId(leg.id) }];
    }),
  );
}

const POOL_HEAD = 30;
const VALUE = { width: 36, height: 50 };

/** The relay’s own layout, with room for the pool’s head; values stand below the pool. */
function writeDiagram(scenario: ExportedScenario): Markup[] {
  const relay = layOutExported(scenario);
  const shape = (element: string, box: { x: number; y: number; width: number; height: number }, isBand = false) =>
    markup`      <bpmndi:BPMNShape id="Shape_${element}" bpmnElement="${element}"${isBand ? markup` isHorizontal="true"` : NO_MARKUP}><dc:Bounds x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}"/></bpmndi:BPMNShape>`;
  const top = relay.lanes[0]?.y ?? 0;
  const lanes = [...new Set(scenario.legs.map(({ lane }) => lane ?? ''))];
  return [
    markup`  <bpmndi:BPMNDiagram id="Diagram">`,
    markup`    <bpmndi:BPMNPlane id="Plane" bpmnElement="Collaboration">`,
    shape('Pool', { x: 0, y: top, width: relay.width + POOL_HEAD, height: Math.max(60, relay.height - top) }, true),
    ...lanes.flatMap((_, index) => {
      const lane = relay.lanes[index];
      return lane ? [shape(`Lane_${index}`, { x: POOL_HEAD, y: lane.y, width: relay.width, height: lane.height }, true)] : [];
    }),
    ...relay.legs.map((leg) => shape(toTaskId(leg.id), { x: leg.x + POOL_HEAD, y: leg.y, width: LEG.width, height: LEG.height })),
    ...listValues(scenario).map(({ id }, index) =>
      shape(id, { x: POOL_HEAD + index * (VALUE.width + 60), y: relay.height + 40, ...VALUE }),
    ),
    ...relay.wires.map(({ from, to, points }) => {
      const id = `Flow_${toTaskId(from)}_${toTaskId(to)}`;
      const way = points.map(([x, y]) => markup`<di:waypoint x="${x + POOL_HEAD}" y="${y}"/>`);
      return markup`      <bpmndi:BPMNEdge id="Edge_${id}" bpmnElement="${id}">${way}</bpmndi:BPMNEdge>`;
    }),
    markup`    </bpmndi:BPMNPlane>`,
    markup`  </bpmndi:BPMNDiagram>`,
  ];
}
