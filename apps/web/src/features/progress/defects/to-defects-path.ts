interface DefectsPath {
  readonly base: string;
  readonly cycle: string;
  readonly scope: string | null;
  readonly filters: Readonly<Record<string, string>>;
}

/** Where the defects behind a number are listed, those that are over too where `show` says so. */
export function toDefectsPath({ base, cycle, scope, filters }: DefectsPath): string {
  return `${base}/defects?${new URLSearchParams({ cycle, ...(scope === null ? {} : { scope }), ...filters })}`;
}
