import type { TileAnswer } from '@kindred-baton/contracts/boards/board';
import type { TileKind } from '@kindred-baton/core/boards/tile';

export interface TileProps<Kind extends TileKind> {
  readonly answer: Extract<TileAnswer, { readonly shows: Kind }>['answer'];
}
