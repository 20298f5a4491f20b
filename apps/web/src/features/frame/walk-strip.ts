import type { StripBlock } from './lay-out-strip.ts';

/** Where an arrow key leads from a block: left and right along its row, up to what it lies in, down to what lies in it. */
export function walkStrip(rows: readonly (readonly StripBlock[])[], from: string | null, key: string): string | null {
  const depth = rows.findIndex((row) => row.some((block) => block.key === from));
  const row = rows[depth] ?? [];
  const at = row.findIndex((block) => block.key === from);
  const here = row[at];
  if (!here) return rows[0]?.[0]?.key ?? null;
  switch (key) {
    case 'ArrowLeft':
      return row[Math.max(0, at - 1)]?.key ?? null;
    case 'ArrowRight':
      return row[Math.min(row.length - 1, at + 1)]?.key ?? null;
    case 'Home':
      return row[0]?.key ?? null;
    case 'End':
      return row.at(-1)?.key ?? null;
    case 'ArrowUp':
      return findOver(rows[depth - 1], here)?.key ?? null;
    case 'ArrowDown':
      return findUnder(rows[depth + 1], here)?.key ?? null;
    default:
      return null;
  }
}

/** What a block lies in, and what lies in it: by name; where blocks were joined, by where they stand. */
function findOver(row: readonly StripBlock[] | undefined, here: StripBlock): StripBlock | undefined {
  const named = row?.find(({ code }) => code !== null && code === here.parent);
  return named ?? row?.find((block) => block.left <= here.left + 1e-9 && here.left < block.left + block.width);
}

function findUnder(row: readonly StripBlock[] | undefined, here: StripBlock): StripBlock | undefined {
  const named = row?.find(({ parent }) => parent !== null && parent === here.code);
  return named ?? row?.find((block) => block.left >= here.left - 1e-9 && block.left < here.left + here.width);
}
