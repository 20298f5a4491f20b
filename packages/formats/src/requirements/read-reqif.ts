import type { TextTable } from '@kindred-baton/core/tables/text-table';
import { XMLParser } from 'fast-xml-parser';
import { decodeText } from '../tables/read-csv.ts';
import type { TablesReading } from '../tables/text-tables.ts';
import { findXmlDanger } from '../xml/find-xml-danger.ts';

/** An element as the parser gives it: attributes by name, children as lists. */
interface Xml {
  readonly [name: string]: unknown;
}

const ATTRIBUTE = '@';

/**
 * Reads ReqIF (any 1.x) as a table: a row for each object in the order of the first specification that lists it, a column for
 * each attribute. XHTML and enumerations become text. Objects that no specification lists follow at the end. Never throws.
 */
export function readReqif(bytes: Uint8Array): TablesReading {
  const text = decodeText(bytes);
  const danger = text === null ? 'The file is not text, so it is no ReqIF.' : findXmlDanger(text);
  if (text === null || danger !== null) return { ok: false, message: danger ?? '' };
  let root: Xml;
  try {
    root = createParser().parse(text, true) as Xml;
  } catch (error) {
    return {
      ok: false,
      message: `The file is not well-formed XML, or its end is missing (${error instanceof Error ? error.message.slice(0, 160) : ''}).`,
    };
  }
  const content = first(first(first(root['REQ-IF'])?.['CORE-CONTENT'])?.['REQ-IF-CONTENT']);
  if (!content) return { ok: false, message: 'The file is XML, but not ReqIF: it has no REQ-IF-CONTENT.' };
  return { ok: true, tables: [toTable(content)] };
}

function createParser(): XMLParser {
  return new XMLParser({
    ...{ ignoreAttributes: false, attributeNamePrefix: ATTRIBUTE, removeNSPrefix: true, parseTagValue: false, parseAttributeValue: false },
    // Also character references by number, such as line ends in attributes.
    htmlEntities: true,
    ...{ trimValues: true, isArray: (_: string, __: unknown, ___: boolean, isAttribute: boolean) => !isAttribute },
    stopNodes: ['*.THE-VALUE'],
  });
}

const list = (value: unknown): Xml[] => (Array.isArray(value) ? (value as Xml[]) : []).filter((item) => typeof item === 'object');
const first = (value: unknown): Xml | undefined => list(value)[0];
const attribute = (element: Xml | undefined, name: string): string => {
  const value = element?.[ATTRIBUTE + name];
  return typeof value === 'string' ? value : '';
};
/** The text of a first child of any of the names that end so: SPEC-OBJECT-REF, ATTRIBUTE-DEFINITION-XHTML-REF … */
function findRef(element: Xml | undefined): string {
  for (const [name, value] of Object.entries(element ?? {})) if (name.endsWith('-REF') && Array.isArray(value)) return String(value[0]);
  return '';
}

function toTable(content: Xml): TextTable {
  const types = list(content['SPEC-TYPES']).flatMap((group) => Object.values(group).flatMap(list));
  const definitions = types.flatMap((type) => list(type['SPEC-ATTRIBUTES'])).flatMap((group) => Object.values(group).flatMap(list));
  const names = new Map(definitions.map((definition) => [attribute(definition, 'IDENTIFIER'), attribute(definition, 'LONG-NAME')]));
  const choices = new Map(
    collect(first(content['DATATYPES']), 'ENUM-VALUE').map((value) => [attribute(value, 'IDENTIFIER'), attribute(value, 'LONG-NAME')]),
  );
  const objects = new Map(list(first(content['SPEC-OBJECTS'])?.['SPEC-OBJECT']).map((object) => [attribute(object, 'IDENTIFIER'), object]));
  const order = collect(first(content['SPECIFICATIONS']), 'SPEC-HIERARCHY').map((place) => findRef(first(place['OBJECT'])));
  const ids = [...new Set([...order.filter((id) => objects.has(id)), ...objects.keys()])];
  const columns = [...new Set(names.values())];
  const rows = ids.map((id, index) => {
    const values = readValues(objects.get(id), names, choices);
    return { number: index + 1, indent: 0, cells: columns.map((column) => values.get(column) ?? '') };
  });
  return { sheet: 'ReqIF', headings: columns.map(toHeading), rows };
}

/** The common names of attributes as headings that are understood. */
function toHeading(name: string): string {
  return { 'ReqIF.ForeignID': 'ID', 'ReqIF.Name': 'Title', 'ReqIF.Text': 'Description', 'ReqIF.ChapterName': 'Chapter' }[name] ?? name;
}

/** All elements of a name, at any depth, in the order of the file. */
function collect(element: Xml | undefined, name: string): Xml[] {
  return Object.entries(element ?? {}).flatMap(([key, value]) =>
    list(value).flatMap((child) => [...(key === name ? [child] : []), ...collect(child, name)]),
  );
}

function readValues(
  object: Xml | undefined,
  names: ReadonlyMap<string, string>,
  choices: ReadonlyMap<string, string>,
): Map<string, string> {
  const values = new Map<string, string>();
  for (const value of Object.values(first(object?.['VALUES']) ?? {}).flatMap(list)) {
    const name = names.get(findRef(first(value['DEFINITION']))) ?? '';
    const rich = Array.isArray(value['THE-VALUE']) ? toPlainText(value['THE-VALUE'][0]) : undefined;
    const chosen = Object.values(first(value['VALUES']) ?? {}).flatMap((refs) =>
      Array.isArray(refs) ? refs.map((ref) => choices.get(String(ref)) ?? '') : [],
    );
    values.set(name, rich ?? (chosen.length > 0 ? chosen.join(', ') : attribute(value, 'THE-VALUE')));
  }
  return values;
}

/** The words of XHTML: paragraphs and breaks become lines. */
function toPlainText(xhtml: unknown): string {
  const text = typeof xhtml === 'string' ? xhtml : '';
  return text
    .replace(/<[^>]*\b(br|p|div|li)\b[^>]*>/gi, '\n')
    .replace(/<[^>]+>/g, '')
    .replace(/&lt;/g, '<')
    .replace(/&gt;/g, '>')
    .replace(/&quot;/g, '"')
    .replace(/&#(\d+);/g, (_, code: string) => String.fromCodePoint(Number(code)))
    .replace(/&amp;/g, '&')
    .replace(/[ \t]*\n\s*/g, '\n')
    .trim();
}
