export interface Figure {
  readonly name: string;
  readonly value: number;
  readonly bound: number;
  readonly unit: string;
  readonly note: string;
}

export const median = (values: readonly number[]) => [...values].sort((a, b) => a - b)[Math.floor(values.length / 2)] ?? NaN;
