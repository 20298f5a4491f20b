import type { MapEntry } from '@kindred-baton/core/imports/map-table';
import { decodeText } from '../tables/read-csv.ts';

const MAX_NODES = 60_000;

export type MapJsonReading =
  { readonly ok: true; readonly entries: readonly MapEntry[] } | { readonly ok: false; readonly message: string };

/** Reads the JSON that `toMapJson` writes: `{ levels, nodes: [{ code, name, parent, … }] }`, parents before their children. */
export function readMapJson(bytes: Uint8Array): MapJsonReading {
  let root: unknown;
  try {
    root = JSON.parse((decodeText(bytes) ?? '').replace(/^\ufeff/, ''));
  } catch {
    return { ok: false, message: 'The file is not JSON, or its end is missing.' };
  }
  const nodes = (root as { nodes?: unknown } | null)?.nodes;
  if (!Array.isArray(nodes)) return { ok: false, message: 'The JSON has no list called “nodes”.' };
  if (nodes.length > MAX_NODES) return { ok: false, message: `The JSON has more than ${MAX_NODES.toLocaleString('en')} nodes.` };
  const places = new Map<string, number>();
  const entries: MapEntry[] = [];
  for (const [index, node] of (nodes as readonly unknown[]).entries()) {
    const entry = toEntry(node, index, places);
    if (typeof entry === 'string') return { ok: false, message: `Node ${index + 1}: ${entry}` };
    entries.push(entry);
  }
  return { ok: true, entries };
}

const TEXTS = ['description', 'team', 'application', 'owner'] as const;

function toEntry(node: unknown, index: number, places: Map<string, number>): MapEntry | string {
  if (typeof node !== 'object' || node === null) return 'it is not an object.';
  const { code, name, parent = null, isCritical, isRetired, ...rest } = node as Record<string, unknown>;
  if (typeof code !== 'string' || code === '') return 'it has no code.';
  if (typeof name !== 'string' || name === '') return `${code} has no name.`;
  if (parent !== null && typeof parent !== 'string') return `the parent of ${code} is not a code.`;
  if (places.has(code)) return `code ${code} stands there twice.`;
  places.set(code, index);
  const texts = TEXTS.flatMap((field) => (typeof rest[field] === 'string' || rest[field] === null ? [[field, rest[field] ?? '']] : []));
  const fields = {
    ...Object.fromEntries(texts),
    ...(typeof isCritical === 'boolean' ? { critical: isCritical } : {}),
    ...(typeof isRetired === 'boolean' ? { retired: isRetired } : {}),
  };
  const above = parent === null ? -1 : (places.get(parent) ?? -1);
  return { place: { sheet: 'JSON', row: index + 1 }, code, name, parent: above, outerParent: above < 0 ? parent : null, fields };
}
