interface TurnsPath {
  readonly base: string;
  /** Its code; of several, with commas between them. */
  readonly cycle: string;
  readonly scope?: string | null;
  readonly filters: Readonly<Record<string, string>>;
}

/** Where the turns behind a number are listed: the address holds the filters that it was counted by. */
export function toTurnsPath({ base, cycle, scope = null, filters: { cycle: only = cycle, ...filters } }: TurnsPath): string {
  const params = new URLSearchParams(scope === null ? filters : { scope, ...filters });
  return `${base}/cycles/${encodeURIComponent(only)}/turns${params.size > 0 ? `?${params}` : ''}`;
}
