import type { Cut, SliceView } from './slice.ts';

interface TileFacts {
  readonly word: string;
  /** Slices of which view it can show. */
  readonly of: SliceView;
}

/** What a tile can show of a slice. Another kind is a row here, its read in store/src/boards/get-tile.ts and its drawing in web/features/boards/tiles. */
const TILE_FACTS = {
  figures: { word: 'How far, in figures', of: 'where' },
  table: { word: 'The table', of: 'where' },
  holds: { word: 'Where the baton is held', of: 'where' },
  curve: { word: 'The course, day by day', of: 'course' },
  odds: { word: 'When it ends, and the odds', of: 'course' },
  since: { word: 'What changed since the last working day', of: 'course' },
  teams: { word: 'The teams side by side', of: 'teams' },
  steps: { word: 'Where it goes wrong', of: 'steps' },
  defects: { word: 'Defects, day by day', of: 'defects' },
  turns: { word: 'The first turns of the list', of: 'turns' },
} as const satisfies Readonly<Record<string, TileFacts>>;
export type TileKind = keyof typeof TILE_FACTS;
export const TILE_KINDS = Object.keys(TILE_FACTS) as [TileKind, ...TileKind[]];
export const getTileLabel = (kind: TileKind): string => TILE_FACTS[kind].word;
/** The view of which a tile shows a slice. */
export const getTileView = (kind: TileKind): SliceView => TILE_FACTS[kind].of;

const WIDTH_FACTS = {
  third: { word: 'A third', sixths: 2 },
  half: { word: 'Half', sixths: 3 },
  'two thirds': { word: 'Two thirds', sixths: 4 },
  whole: { word: 'All of it', sixths: 6 },
} as const;
export type TileWidth = keyof typeof WIDTH_FACTS;
export const TILE_WIDTHS = Object.keys(WIDTH_FACTS) as [TileWidth, ...TileWidth[]];
export const getWidthLabel = (width: TileWidth): string => WIDTH_FACTS[width].word;
/** How much of the board's width it takes, of six columns. */
export const getSixths = (width: TileWidth): number => WIDTH_FACTS[width].sixths;

/** As many are shown at once: each is a question to the server. */
export const MOST_TILES = 24;

/** Whether a tile names people: what an observer without an account is not shown. */
export const isNamingPeople = (kind: TileKind, cut: Cut): boolean =>
  kind === 'turns' ||
  cut['person'] !== undefined ||
  (kind === 'teams' && cut['each'] === 'tester') ||
  (kind === 'table' && [cut['rows'], cut['columns']].includes('person'));
