/** A workbook as cells, whatever program wrote it. */
export type CellContent =
  | { readonly kind: 'text'; readonly text: string }
  | { readonly kind: 'number'; readonly number: number }
  | { readonly kind: 'date'; readonly day: string }
  | { readonly kind: 'truth'; readonly value: boolean }
  | {
      readonly kind: 'formula';
      readonly formula: string;
      /** What it came to when it was saved. */ readonly result?: CellContent | undefined;
    }
  | { readonly kind: 'error'; readonly text: string };

export interface SheetRow {
  /** As the person sees it, from 1. */
  readonly number: number;
  /** By 1-based column; empty cells are left out. */
  readonly cells: ReadonlyMap<number, CellContent>;
  /** How far the first filled cell is indented: the sheet’s own indent, or leading spaces. */
  readonly indent: number;
}

export interface Sheet {
  readonly name: string;
  readonly rows: readonly SheetRow[];
}

export type WorkbookReading =
  { readonly ok: true; readonly sheets: readonly Sheet[] } | { readonly ok: false; readonly sheet: string; readonly message: string };

/** 1 → A, 27 → AA. */
export function toColumnLetters(column: number): string {
  let letters = '';
  for (let rest = column; rest > 0; rest = Math.floor((rest - 1) / 26)) letters = String.fromCharCode(65 + ((rest - 1) % 26)) + letters;
  return letters;
}
