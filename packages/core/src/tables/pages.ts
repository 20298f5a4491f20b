/** Which page of a list it is, from 1; where it begins, from 0; and how many entries there are in all. */
export interface PlacedPage {
  readonly page: number;
  readonly from: number;
  readonly size: number;
}

export interface WantedPage {
  readonly page: number;
  /** How many entries a page has. */
  readonly of: number;
}

/** A page behind the end is the last. */
export function placePage(size: number, { page: wanted, of }: WantedPage): PlacedPage {
  const page = Math.max(1, Math.min(wanted, Math.ceil(size / of)));
  return { page, from: (page - 1) * of, size };
}

export function cutPage<Item>(all: readonly Item[], wanted: WantedPage): { readonly at: PlacedPage; readonly shown: readonly Item[] } {
  const at = placePage(all.length, wanted);
  return { at, shown: all.slice(at.from, at.from + wanted.of) };
}
