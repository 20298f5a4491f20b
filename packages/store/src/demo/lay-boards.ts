import type { Tile } from '@kindred-baton/contracts/boards/board';
import type { Cut, SliceView } from '@kindred-baton/core/boards/slice';
import { readCut } from '@kindred-baton/core/boards/slice';
import type { PersonId, SliceId } from '@kindred-baton/core/ids';
import type { Anchor } from '../schema/boards.ts';
import { boards, slices } from '../schema/boards.ts';
import type { DemoTools, LaidProgramme } from './lay-programme.ts';

const LEAD = 'Lea Marsh';

interface SlicePlan {
  readonly name: string;
  readonly view: SliceView;
  readonly cut: Cut;
}

const TEAMS_ERRORS_FIRST: SlicePlan = { name: 'Processes by team, errors first', view: 'where', cut: { sort: 'errors' } };
const SLICES: readonly SlicePlan[] = [
  TEAMS_ERRORS_FIRST,
  { name: 'By criticality', view: 'where', cut: { rows: 'process', columns: 'criticality' } },
  { name: 'Whole runs, round beside round', view: 'where', cut: { cycle: '@last', rows: 'process', columns: 'cycle', counted: 'runs' } },
  { name: 'Leak to repair: where it goes wrong', view: 'steps', cut: { scope: 'LR' } },
];

/** A tile: what it shows, of the slice of that name or of the current cycle, how wide. */
type TilePlan = readonly [Tile['shows'], string | null, Tile['width']];

const BOARDS: readonly { readonly name: string; readonly tiles: readonly TilePlan[] }[] = [
  {
    name: 'The lead’s morning',
    tiles: [
      ['figures', null, 'third'],
      ['since', null, 'third'],
      ['odds', null, 'third'],
      ['table', TEAMS_ERRORS_FIRST.name, 'two thirds'],
      ['holds', null, 'third'],
      ['steps', null, 'whole'],
    ],
  },
  {
    name: 'Steering group',
    tiles: [
      ['curve', null, 'two thirds'],
      ['odds', null, 'third'],
      ['table', 'By criticality', 'half'],
      ['table', 'Whole runs, round beside round', 'half'],
      ['defects', null, 'whole'],
      ['teams', null, 'whole'],
    ],
  },
];

/** Two boards for all: what the lead looks at every morning, and what the steering group is shown. */
export async function layBoards({ db, id, now }: DemoTools, laid: LaidProgramme): Promise<void> {
  const personId = laid.personOf.get(LEAD) as PersonId;
  const own = { programmeId: laid.programmeId, personId, isShared: true, keptAt: now };
  const idOf = new Map<string, SliceId>();
  for (const { name, view, cut } of SLICES) {
    const sliceId = id<'slice'>();
    idOf.set(name, sliceId);
    await db.insert(slices).values({ ...own, id: sliceId, name, view, cut: readCut(Object.entries(cut)), anchors: listAnchors(cut, laid) });
  }
  for (const { name, tiles } of BOARDS)
    await db.insert(boards).values({
      ...{ ...own, id: id<'board'>(), name },
      tiles: tiles.map(([shows, slice, width]) => ({
        ...{ id: id<'tile'>(), shows, width, sliceId: slice === null ? null : (idOf.get(slice) ?? null) },
      })),
    });
}

function listAnchors({ scope }: Cut, laid: LaidProgramme): Anchor[] {
  const node = scope === undefined ? undefined : laid.nodeOf.get(scope);
  return scope === undefined || node === undefined ? [] : [{ name: 'scope', value: scope, id: node }];
}
