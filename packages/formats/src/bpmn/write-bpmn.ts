import type { NamedNode } from '@kindred-baton/core/imports/choose-differences';
import type { OutlineTree } from '@kindred-baton/core/map/outline';
import { toOutlineTree } from '@kindred-baton/core/map/outline';
import { NAMESPACE, PREFIX } from './bpmn.ts';
import type { Box } from './lay-out-boxes.ts';
import { layOutBoxes } from './lay-out-boxes.ts';
import type { Markup } from '../xml/markup.ts';
import { markup, NO_MARKUP, toAttributes, toLines } from '../xml/markup.ts';

type Tree = OutlineTree<NamedNode>;

/**
 * Writes branches of the map as BPMN 2.0 XML with a drawing: each top node a process (several: pools of one collaboration), what
 * has nodes below it a subprocess, the lowest a task; teams are lanes, and neighbours follow one another. `readBpmn` reads it back.
 * @param nodes in map order; a node whose parent is not among them is a top node.
 */
export function writeBpmn(nodes: readonly NamedNode[], programme: string): string {
  const known = new Set(nodes.map(({ id }) => id));
  const tree = toOutlineTree(
    nodes.map((node) => (node.parentId !== null && known.has(node.parentId) ? node : { ...node, parentId: null })),
  );
  const tops = tree.childrenOf.get(null) ?? [];
  const hasPools = tops.length > 1;
  const boxes = layOutBoxes(tree, tops, hasPools);
  const processes = tops.map((top) => writeProcess(tree, top));
  const pools = tops.map((top) => markup`    <participant id="Pool_${top.code}" name="${top.name}" processRef="${toId(top)}"/>`);
  return toLines([
    markup`<?xml version="1.0" encoding="UTF-8"?>`,
    markup`<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL" xmlns:bpmndi="http://www.omg.org/spec/BPMN/20100524/DI" xmlns:dc="http://www.omg.org/spec/DD/20100524/DC" xmlns:di="http://www.omg.org/spec/DD/20100524/DI"`,
    markup`  xmlns:${PREFIX}="${NAMESPACE}" id="Definitions" name="${programme}" targetNamespace="${NAMESPACE}">`,
    ...(hasPools ? [markup`  <collaboration id="Collaboration">`, ...pools, markup`  </collaboration>`] : []),
    ...processes,
    writeDiagram(hasPools ? 'Collaboration' : tops[0] ? toId(tops[0]) : 'Definitions', boxes),
    markup`</definitions>`,
    NO_MARKUP,
  ]).write();
}

const toId = ({ code }: { readonly code: string }) => `Node_${code}`;

function writeProcess(tree: Tree, top: NamedNode): Markup {
  const attributes = markup`id="${toId(top)}" name="${top.name}" isExecutable="false"${writeOwn(top)}${top.team === null ? '' : markup` ${PREFIX}:team="${top.team}"`}`;
  return toLines([markup`  <process ${attributes}>`, ...writeDocumentation(top), ...writeInside(tree, top), markup`  </process>`]);
}

function writeOwn({ code, application, owner, isCritical, isRetired }: NamedNode): Markup {
  const flags = { critical: isCritical ? 'true' : 'false', retired: isRetired ? 'true' : 'false' };
  return toAttributes({ code, application: application ?? '', owner: owner ?? '', ...flags }, `${PREFIX}:`);
}

const writeDocumentation = ({ description }: NamedNode) =>
  description === '' ? [] : [markup`    <documentation>${description}</documentation>`];

function writeInside(tree: Tree, holder: NamedNode): Markup[] {
  const inside = tree.childrenOf.get(holder.id) ?? [];
  if (inside.length === 0) return [];
  const stations = [`Start_${holder.code}`, ...inside.map(toId), `End_${holder.code}`];
  const flows = stations.slice(1).map((to, index) => ({ id: `Flow_${holder.code}_${index}`, from: stations[index] ?? '', to }));
  const ends = (id: string) => [
    ...flows.filter((flow) => flow.to === id).map((flow) => markup`<incoming>${flow.id}</incoming>`),
    ...flows.filter((flow) => flow.from === id).map((flow) => markup`<outgoing>${flow.id}</outgoing>`),
  ];
  return [
    ...writeLanes(holder, inside),
    markup`    <startEvent id="Start_${holder.code}">${ends(`Start_${holder.code}`)}</startEvent>`,
    ...inside.flatMap((node) => writeActivity(tree, node, ends(toId(node)))),
    markup`    <endEvent id="End_${holder.code}">${ends(`End_${holder.code}`)}</endEvent>`,
    ...flows.map(({ id, from, to }) => markup`    <sequenceFlow id="${id}" sourceRef="${from}" targetRef="${to}"/>`),
  ];
}

function writeActivity(tree: Tree, node: NamedNode, ends: readonly Markup[]): Markup[] {
  const inside = writeInside(tree, node);
  const tag = inside.length > 0 ? 'subProcess' : 'task';
  const attributes = markup`id="${toId(node)}" name="${node.name}"${writeOwn(node)}`;
  return [markup`    <${tag} ${attributes}>`, ...writeDocumentation(node), markup`      ${ends}`, ...inside, markup`    </${tag}>`];
}

function writeLanes(holder: NamedNode, inside: readonly NamedNode[]): Markup[] {
  const teams = [...new Set(inside.flatMap(({ team }) => team ?? []))];
  if (teams.length === 0) return [];
  const lanes = teams.map((team, index) => {
    const refs = inside.filter((node) => node.team === team).map((node) => markup`<flowNodeRef>${toId(node)}</flowNodeRef>`);
    return markup`      <lane id="Lane_${holder.code}_${index}" name="${team}">${refs}</lane>`;
  });
  return [markup`    <laneSet id="Lanes_${holder.code}">`, ...lanes, markup`    </laneSet>`];
}

const BOX_ATTRIBUTES: Readonly<Partial<Record<Box['kind'], Markup>>> = {
  inside: markup` isExpanded="true"`,
  pool: markup` isHorizontal="true"`,
};

function writeDiagram(plane: string, boxes: readonly Box[]): Markup {
  const shapes = boxes.map((box) =>
    box.kind === 'flow'
      ? markup`      <bpmndi:BPMNEdge id="Edge_${box.element}" bpmnElement="${box.element}"><di:waypoint x="${box.x}" y="${box.y}"/><di:waypoint x="${box.x + box.width}" y="${box.y + box.height}"/></bpmndi:BPMNEdge>`
      : markup`      <bpmndi:BPMNShape id="Shape_${box.element}" bpmnElement="${box.element}"${BOX_ATTRIBUTES[box.kind] ?? NO_MARKUP}><dc:Bounds x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}"/></bpmndi:BPMNShape>`,
  );
  return toLines([
    markup`  <bpmndi:BPMNDiagram id="Diagram">`,
    markup`    <bpmndi:BPMNPlane id="Plane" bpmnElement="${plane}">`,
    ...shapes,
    markup`    </bpmndi:BPMNPlane>`,
    markup`  </bpmndi:BPMNDiagram>`,
  ]);
}
