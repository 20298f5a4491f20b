import type { NamedNode } from '@kindred-baton/core/imports/choose-differences';
import type { OutlineTree } from '@kindred-baton/core/map/outline';
import { toOutlineTree } from '@kindred-baton/core/map/outline';
import { NAMESPACE, PREFIX } from './bpmn.ts';
import type { Box } from './lay-out-boxes.ts';
import { layOutBoxes } from './lay-out-boxes.ts';
import { escapeXml } from '../xml/escape-xml.ts';

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
  const pools = tops.map((top) => `    <participant id="Pool_${top.code}" name="${escapeXml(top.name)}" processRef="${toId(top)}"/>`);
  return [
    '<?xml version="1.0" encoding="UTF-8"?>',
    '<definitions xmlns="http://www.omg.org/spec/BPMN/20100524/MODEL" xmlns:bpmndi="http://www.omg.org/spec/BPMN/20100524/DI" xmlns:dc="http://www.omg.org/spec/DD/20100524/DC" xmlns:di="http://www.omg.org/spec/DD/20100524/DI"',
    `  xmlns:${PREFIX}="${NAMESPACE}" id="Definitions" name="${escapeXml(programme)}" targetNamespace="${NAMESPACE}">`,
    ...(hasPools ? ['  <collaboration id="Collaboration">', ...pools, '  </collaboration>'] : []),
    ...processes,
    writeDiagram(hasPools ? 'Collaboration' : tops[0] ? toId(tops[0]) : 'Definitions', boxes),
    '</definitions>',
    '',
  ].join('\n');
}

const toId = ({ code }: { readonly code: string }) => `Node_${code}`;

function writeProcess(tree: Tree, top: NamedNode): string {
  const attributes = `id="${toId(top)}" name="${escapeXml(top.name)}" isExecutable="false"${writeOwn(top)}${top.team === null ? '' : ` ${PREFIX}:team="${escapeXml(top.team)}"`}`;
  return [`  <process ${attributes}>`, ...writeDocumentation(top), ...writeInside(tree, top), '  </process>'].join('\n');
}

function writeOwn({ code, application, owner, isCritical, isRetired }: NamedNode): string {
  const own = { code, application, owner, critical: isCritical ? 'true' : 'false', retired: isRetired ? 'true' : 'false' };
  return Object.entries(own)
    .map(([name, value]) => ` ${PREFIX}:${name}="${escapeXml(value ?? '')}"`)
    .join('');
}

const writeDocumentation = ({ description }: NamedNode) =>
  description === '' ? [] : [`    <documentation>${escapeXml(description)}</documentation>`];

function writeInside(tree: Tree, holder: NamedNode): string[] {
  const inside = tree.childrenOf.get(holder.id) ?? [];
  if (inside.length === 0) return [];
  const stations = [`Start_${holder.code}`, ...inside.map(toId), `End_${holder.code}`];
  const flows = stations.slice(1).map((to, index) => ({ id: `Flow_${holder.code}_${index}`, from: stations[index] ?? '', to }));
  const ends = (id: string) => [
    ...flows.filter((flow) => flow.to === id).map((flow) => `<incoming>${flow.id}</incoming>`),
    ...flows.filter((flow) => flow.from === id).map((flow) => `<outgoing>${flow.id}</outgoing>`),
  ];
  return [
    ...writeLanes(holder, inside),
    `    <startEvent id="Start_${holder.code}">${ends(`Start_${holder.code}`).join('')}</startEvent>`,
    ...inside.flatMap((node) => writeActivity(tree, node, ends(toId(node)))),
    `    <endEvent id="End_${holder.code}">${ends(`End_${holder.code}`).join('')}</endEvent>`,
    ...flows.map(({ id, from, to }) => `    <sequenceFlow id="${id}" sourceRef="${from}" targetRef="${to}"/>`),
  ];
}

function writeActivity(tree: Tree, node: NamedNode, ends: readonly string[]): string[] {
  const inside = writeInside(tree, node);
  const tag = inside.length > 0 ? 'subProcess' : 'task';
  const attributes = `id="${toId(node)}" name="${escapeXml(node.name)}"${writeOwn(node)}`;
  return [`    <${tag} ${attributes}>`, ...writeDocumentation(node), `      ${ends.join('')}`, ...inside, `    </${tag}>`];
}

function writeLanes(holder: NamedNode, inside: readonly NamedNode[]): string[] {
  const teams = [...new Set(inside.flatMap(({ team }) => team ?? []))];
  if (teams.length === 0) return [];
  const lanes = teams.map((team, index) => {
    const refs = inside.filter((node) => node.team === team).map((node) => `<flowNodeRef>${toId(node)}</flowNodeRef>`);
    return `      <lane id="Lane_${holder.code}_${index}" name="${escapeXml(team)}">${refs.join('')}</lane>`;
  });
  return [`    <laneSet id="Lanes_${holder.code}">`, ...lanes, '    </laneSet>'];
}

function writeDiagram(plane: string, boxes: readonly Box[]): string {
  const shapes = boxes.map((box) =>
    box.kind === 'flow'
      ? `      <bpmndi:BPMNEdge id="Edge_${box.element}" bpmnElement="${box.element}"><di:waypoint x="${box.x}" y="${box.y}"/><di:waypoint x="${box.x + box.width}" y="${box.y + box.height}"/></bpmndi:BPMNEdge>`
      : `      <bpmndi:BPMNShape id="Shape_${box.element}" bpmnElement="${box.element}"${box.kind === 'inside' ? ' isExpanded="true"' : box.kind === 'pool' ? ' isHorizontal="true"' : ''}><dc:Bounds x="${box.x}" y="${box.y}" width="${box.width}" height="${box.height}"/></bpmndi:BPMNShape>`,
  );
  return [
    '  <bpmndi:BPMNDiagram id="Diagram">',
    `    <bpmndi:BPMNPlane id="Plane" bpmnElement="${plane}">`,
    ...shapes,
    '    </bpmndi:BPMNPlane>',
    '  </bpmndi:BPMNDiagram>',
  ].join('\n');
}
