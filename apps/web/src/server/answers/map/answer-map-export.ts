import { AppError } from '@kindred-baton/contracts/errors';
import type { NamedNode } from '@kindred-baton/core/imports/choose-differences';
import { flattenOutline, toOutlineTree } from '@kindred-baton/core/map/outline';
import { writeBpmn } from '@kindred-baton/formats/bpmn/write-bpmn';
import { toMapJson, toMapTable } from '@kindred-baton/formats/map/write-map';
import { writeCsv, writeXlsx } from '@kindred-baton/formats/tables/write-tables';
import { getOutline } from '@kindred-baton/store/map/load-outline';
import type { Call } from '../../call.ts';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';

type Format = 'xlsx' | 'csv' | 'json' | 'bpmn';
const encode = (text: string) => new TextEncoder().encode(text);

const WRITERS: Readonly<
  Record<Format, (nodes: readonly NamedNode[], levels: readonly string[], programme: string) => Promise<Uint8Array> | Uint8Array>
> = {
  xlsx: (nodes, levels) => writeXlsx([toMapTable(nodes, levels)]),
  csv: (nodes, levels) => writeCsv(toMapTable(nodes, levels)),
  json: (nodes, levels) => encode(toMapJson(nodes, levels)),
  bpmn: (nodes, _, programme) => encode(writeBpmn(nodes, programme)),
};

/** The map, or one branch of it, as a file. */
export async function answerMapExport({ ask, actor, url }: Call): Promise<Response> {
  const format = url.searchParams.get('format') ?? 'xlsx';
  if (!Object.hasOwn(WRITERS, format)) throw new AppError('invalid', `The map is not written as ${format}; XLSX, CSV, JSON and BPMN are.`);
  const scope = url.searchParams.get('scope');
  const outline = await ask(getOutline, undefined);
  const nodes = takeBranch(outline.nodes, scope);
  const bytes = await WRITERS[format as Format](nodes, outline.levels, actor.programmeKey);
  return answerFile(bytes, {
    name: `${actor.programmeKey}-map${scope === null ? '' : `-${scope}`}.${format}`,
    mediaType: MEDIA_TYPES[format as Format],
  });
}

function takeBranch<Node extends NamedNode>(nodes: readonly Node[], scope: string | null): readonly Node[] {
  if (scope === null) return nodes;
  const tree = toOutlineTree(nodes);
  const top = tree.byCode.get(scope);
  if (!top) throw new AppError('not found', `There is no node ${scope} on the map.`);
  return [top, ...flattenOutline(tree, top.id)];
}
