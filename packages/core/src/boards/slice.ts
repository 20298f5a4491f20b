/** A view of which a cut can be kept. */
interface SliceViewFacts {
  readonly word: string;
  /** What the address says of the view; null: it is what is shown without a word. */
  readonly view: string | null;
}

const SLICE_VIEW_FACTS = {
  where: { word: 'Where we are', view: null },
  course: { word: 'Course', view: 'course' },
  teams: { word: 'Teams', view: 'teams' },
  steps: { word: 'Where it goes wrong', view: 'steps' },
  effort: { word: 'Effort', view: 'effort' },
  defects: { word: 'Defects', view: 'defects' },
  turns: { word: 'Turns', view: null },
} as const satisfies Readonly<Record<string, SliceViewFacts>>;
export type SliceView = keyof typeof SLICE_VIEW_FACTS;
export const SLICE_VIEWS = Object.keys(SLICE_VIEW_FACTS) as [SliceView, ...SliceView[]];
export const getSliceViewLabel = (view: SliceView): string => SLICE_VIEW_FACTS[view].word;

/** What a view is asked with, by its names in the address. */
export type Cut = Readonly<Record<string, string>>;

/** What of an address is no cut: which view, slice and page it is, and what is chosen within. */
const NO_CUT: ReadonlySet<string> = new Set(['view', 'slice', 'page', 'fromRow', 'fromColumn', 'step', 'holdsOf']);

/** The cut of an address: its parameters without those that only say where in it somebody looks. */
export const readCut = (params: Iterable<readonly [string, string]>): Cut =>
  Object.fromEntries([...params].filter(([name, value]) => !NO_CUT.has(name) && value !== '').sort(([a], [b]) => (a < b ? -1 : 1)));

export const isSameCut = (one: Cut, other: Cut): boolean =>
  JSON.stringify(readCut(Object.entries(one))) === JSON.stringify(readCut(Object.entries(other)));

/** Where under its programme a cut is shown: /progress?view=course&scope=NS. The turns of no cycle in particular are not listed: they need one. */
export function toSliceAddress(view: SliceView, cut: Cut, more: Cut = {}): string {
  const said = SLICE_VIEW_FACTS[view].view;
  const { cycle = '', ...rest } = cut;
  const params = new URLSearchParams({ ...(said === null ? {} : { view: said }), ...(view === 'turns' ? rest : cut), ...more });
  const path = view === 'turns' ? `/cycles/${encodeURIComponent(cycle)}/turns` : '/progress';
  return params.size === 0 ? path : `${path}?${params}`;
}
