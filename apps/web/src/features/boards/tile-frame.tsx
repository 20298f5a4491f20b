import type { TileAnswer, TileView } from '@kindred-baton/contracts/boards/board';
import { toSliceAddress } from '@kindred-baton/core/boards/slice';
import type { TileKind } from '@kindred-baton/core/boards/tile';
import { getSixths, getTileLabel, getTileView } from '@kindred-baton/core/boards/tile';
import type { ComponentType } from 'react';
import { lazy, Suspense } from 'react';
import { useRead } from '../../client/use-read.ts';
import { FixedAddress } from '../frame/address-context.tsx';
import { useProgramme } from '../frame/programme-context.tsx';
import type { TileProps } from './tiles/tile-props.ts';
import { FiguresTile } from './tiles/figures-tile.tsx';
import { HoldsTile } from './tiles/holds-tile.tsx';
import { SinceTile } from './tiles/since-tile.tsx';
import { StepsTile } from './tiles/steps-tile.tsx';
import { TableTile } from './tiles/table-tile.tsx';
import { TeamsTile } from './tiles/teams-tile.tsx';
import { TurnsTile } from './tiles/turns-tile.tsx';

/** Come with the forecast, where a board has one. */
const CurveTile = lazy(() => import('./tiles/course-tiles.tsx').then((own) => ({ default: own.CurveTile })));
const DefectsTile = lazy(() => import('./tiles/defects-tile.tsx').then((own) => ({ default: own.DefectsTile })));
const OddsTile = lazy(() => import('./tiles/course-tiles.tsx').then((own) => ({ default: own.OddsTile })));

/** How each kind is drawn. */
const TILES: { readonly [Kind in TileKind]: ComponentType<TileProps<Kind>> } = {
  ...{ figures: FiguresTile, table: TableTile, holds: HoldsTile, curve: CurveTile, odds: OddsTile },
  ...{ since: SinceTile, teams: TeamsTile, steps: StepsTile, defects: DefectsTile, turns: TurnsTile },
};

/** Six columns from 1024 px on; below, one. */
const SPANS: Readonly<Record<number, string>> = { 2: 'lg:col-span-2', 3: 'lg:col-span-3', 4: 'lg:col-span-4', 6: 'lg:col-span-6' };
const getSpan = (tile: TileView): string => SPANS[getSixths(tile.width)] ?? '';

/** What a tile is called: its slice; without one, what it shows. */
export const getTileName = ({ slice, shows, isGone }: TileView): string =>
  slice ? slice.name : isGone ? 'A slice that is gone' : getTileLabel(shows);

interface TileFrameProps {
  readonly board: string;
  readonly tile: TileView;
  /** Asks again by itself so often; undefined: whenever something changes. */
  readonly againMs: number | undefined;
}

/** A tile: what it is, and what its slice shows at the moment. Its name opens the view with the same cut. */
export function TileFrame({ board, tile, againMs }: TileFrameProps) {
  const { base } = useProgramme();
  const { data, error } = useRead(
    'getTile',
    { params: { board, tile: tile.id } },
    againMs === undefined ? {} : { refetchInterval: againMs },
  );
  const cut = tile.slice?.cut ?? {};
  const place = `${base}${toSliceAddress(getTileView(tile.shows), cut, tile.slice ? { slice: tile.slice.id } : {})}`;
  const name = getTileName(tile);
  return (
    <section aria-label={name} className={`board-tile flex min-w-0 flex-col ${getSpan(tile)}`}>
      <h2 className="mb-1.5 flex flex-wrap items-baseline gap-x-2 text-[15px]">
        <a className="min-w-0 break-words hover:underline" href={place}>
          {name}
        </a>
        {tile.slice && <span className="text-[12px] font-normal text-soft">{getTileLabel(tile.shows)}</span>}
        {error && data && <span className="text-[12px] font-bold text-ink">not renewed: {error.message}</span>}
      </h2>
      <FixedAddress address={place}>
        {data ? <Shown answer={data} /> : <Words>{error ? error.message : `Looking at ${name} …`}</Words>}
      </FixedAddress>
    </section>
  );
}

function Shown({ answer }: { readonly answer: TileAnswer }) {
  if (answer.shows === 'nothing') return <Words>{answer.why}</Words>;
  // The answer says of which kind it is: its drawing takes just that.
  const Tile = TILES[answer.shows] as ComponentType<{ readonly answer: unknown }>;
  return (
    <Suspense fallback={<Words>Drawing it …</Words>}>
      <Tile answer={answer.answer} />
    </Suspense>
  );
}

const Words = ({ children }: { readonly children: string }) => (
  <p className="card flex-1 px-4 py-3.5 text-soft" role="status">
    {children}
  </p>
);
