/** A line of a pasted outline: how deep it stands, and what it is called. */
export interface OutlineLine {
  readonly depth: number;
  /** Null when the text gives none; the programme's scheme proposes one. */
  readonly code: string | null;
  readonly name: string;
}

const BULLET = /^(?:[-*•–·▪◦]|\d+[.)])\s+/;
const CODE = /^[A-Za-z0-9]*\d[A-Za-z0-9]*(?:[.\-_][A-Za-z0-9]+)*$/;
const TAB_WIDTH = 4;

/**
 * Reads what was pasted: an indented list (tabs, spaces, bullets), spreadsheet rows with a column for each level, or rows of
 * code and name. Depths start at 0 and grow by one at most. Cost O(length).
 */
export function parseOutlineText(text: string): OutlineLine[] {
  const lines = text
    .replace(/\r\n?/g, '\n')
    .split('\n')
    .filter((line) => line.trim() !== '');
  const isSheet = lines.some((line) => /\S\t/.test(line));
  const raw = isSheet ? readRows(lines) : lines.map(readLine);
  return toDepths(raw);
}

interface RawLine {
  readonly indent: number;
  readonly code: string | null;
  readonly name: string;
}

function readLine(line: string): RawLine {
  const lead = /^[\t \u00a0]*/.exec(line)?.[0] ?? '';
  const indent = [...lead].reduce((width, character) => width + (character === '\t' ? TAB_WIDTH : 1), 0);
  const body = line.trim().replace(BULLET, '');
  const [first = '', ...rest] = body.split(/\s+/);
  const isCoded = rest.length > 0 && CODE.test(first);
  return { indent, code: isCoded ? first : null, name: isCoded ? rest.join(' ') : body };
}

/** Rows from a spreadsheet: a leading code column, or one column a level. */
function readRows(lines: readonly string[]): RawLine[] {
  const rows = lines.map((line) => line.split('\t').map((cell) => cell.trim()));
  const isCoded = rows.every(([code = '', name = '']) => code !== '' && name !== '' && !/\s/.test(code));
  if (isCoded) return rows.map(([code = '', name = '']) => ({ indent: code.split(/[.\-_/]/).length, code, name }));
  return readLevels(rows);
}

/** A column a level: a cell that says the same as the row above is not a node again. */
function readLevels(rows: readonly (readonly string[])[]): RawLine[] {
  const above: string[] = [];
  return rows.flatMap((cells) =>
    cells.flatMap((name, depth): RawLine[] => {
      if (name === '' || above[depth] === name) return [];
      above.splice(depth, above.length, name);
      return [{ indent: depth, code: null, name }];
    }),
  );
}

/** Indents become depths: deeper than the line above is one deeper, whatever the width; less deep goes back to its equal. */
function toDepths(lines: readonly RawLine[]): OutlineLine[] {
  const indents: number[] = [];
  return lines.map(({ indent, code, name }) => {
    while (indents.length > 0 && (indents.at(-1) ?? 0) >= indent) indents.pop();
    indents.push(indent);
    return { depth: indents.length - 1, code, name };
  });
}
