import type { BoardView, KeepBoard } from '@kindred-baton/contracts/boards/board';

/** A board as it is kept, with the version that was seen. */
export const toKept = ({ name, isShared, version, tiles }: BoardView): KeepBoard & { version: number } => ({
  ...{ name, isShared, version },
  tiles: tiles.map(({ id, shows, sliceId, width }) => ({ id, shows, sliceId, width })),
});
