import { findRepeats, findUnknown } from './find-repeats.ts';
import type { ImportDocument, ImportSurroundings, ImportedNode } from './import-document.ts';
import type { ImportProblem } from '../tables/place.ts';

export function checkNodes({ nodes }: ImportDocument, around: ImportSurroundings): ImportProblem[] {
  return [
    ...findRepeats('Process', nodes, around.nodes),
    ...findUnknown(
      'Team',
      nodes.map(({ place, team }) => ({ place, name: team })),
      around.teams,
    ),
    ...findUnknown(
      'Application',
      nodes.map(({ place, application }) => ({ place, name: application })),
      around.applications,
    ),
    ...checkParents(nodes, around),
  ];
}

function checkParents(nodes: readonly ImportedNode[], around: ImportSurroundings): ImportProblem[] {
  const parentOf = new Map([...around.nodes, ...nodes].map(({ code, parent }) => [code, parent]));
  return nodes.flatMap(({ place, code, parent }) => {
    if (parent === null) return [];
    const at = { ...place, column: 'Parent' };
    if (!parentOf.has(parent)) return [{ ...at, message: `Parent ${parent} of ${code} is not in this file and not on the map.` }];
    const path = findPath(code, parentOf);
    if (path.isCircle) return [{ ...at, message: `${code} is its own parent in the end: ${path.codes.join(' › ')}.` }];
    if (path.codes.length > around.levels) {
      return [{ ...at, message: `${code} would stand on level ${path.codes.length}; this programme has ${around.levels} levels.` }];
    }
    return [];
  });
}

function findPath(code: string, parentOf: ReadonlyMap<string, string | null>): { codes: string[]; isCircle: boolean } {
  const codes = [code];
  for (let at = parentOf.get(code) ?? null; at !== null; at = parentOf.get(at) ?? null) {
    const isCircle = codes.includes(at);
    codes.push(at);
    if (isCircle) return { codes, isCircle };
  }
  return { codes, isCircle: false };
}
