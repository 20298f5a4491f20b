import { randomUUID } from 'node:crypto';
import type { KeepBoard, Tile } from '@kindred-baton/contracts/boards/board';
import { tileAnswerSchema } from '@kindred-baton/contracts/boards/board';
import { keepSliceSchema } from '@kindred-baton/contracts/boards/slice';
import { progressQuerySchema } from '@kindred-baton/contracts/progress/progress';
import { TILE_KINDS, MOST_TILES } from '@kindred-baton/core/boards/tile';
import type { BoardId, SliceId } from '@kindred-baton/core/ids';
import { sql } from 'drizzle-orm';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { TestStore } from '../../../../tests/support/test-store.ts';
import { createTestStore } from '../../../../tests/support/test-store.ts';
import type { Actor } from '../actor.ts';
import { leaveProgramme } from '../programmes/change-people.ts';
import { getProgress } from '../progress/get-progress.ts';
import { boardLinks } from '../schema/boards.ts';
import { findObserver, makeBoardLink, withdrawBoardLink } from './board-links.ts';
import { changeBoard, dropBoard, getBoard, listBoards, makeBoard } from './boards.ts';
import { getTile } from './get-tile.ts';
import { changeSlice, dropSlice, getSlice, keepSlice, listSlices } from './slices.ts';

const tile = (shows: Tile['shows'], sliceId: SliceId | null = null): Tile => ({ id: randomUUID(), shows, sliceId, width: 'half' });

describe('slices and boards', () => {
  let db: TestStore;
  let lead: Actor;
  let observer: Actor;
  let author: Actor;
  beforeAll(async () => {
    db = await createTestStore('demo');
    [lead, observer, author] = await Promise.all([db.actorOf('Lea Marsh'), db.actorOf('Cora Vane'), db.actorOf('Edda Quill')]);
  });
  afterAll(() => db.drop());

  const keep = (
    who: Actor,
    cut: Record<string, string>,
    more: Partial<{ name: string; view: 'where' | 'turns' | 'steps'; isShared: boolean }> = {},
  ) => db.perform(who, keepSlice, { name: 'Kept', view: 'where', isShared: false, cut, ...more });
  const put = (who: Actor, tiles: Tile[], more: Partial<KeepBoard> = {}) =>
    db.perform(who, makeBoard, { name: 'Put up', isShared: false, tiles, ...more });
  const look = (who: Actor, board: BoardId, id: string, isForObservers = false) =>
    db.ask(who, getTile, { board, tile: id, isForObservers });

  it('the demo has two boards for all, and every tile of them shows something', async () => {
    const boards = await db.ask(observer, listBoards, undefined);
    expect(boards.map(({ name, isMine }) => [name, isMine])).toEqual([
      ['Steering group', false],
      ['The lead’s morning', false],
    ]);
    for (const { id } of boards)
      for (const own of (await db.ask(observer, getBoard, id)).tiles) expect((await look(observer, id, own.id)).shows).toBe(own.shows);
  });

  it('keep what a view was asked with: a tile of it answers as the view does', async () => {
    const cut = { cycle: 'ACC-2', rows: 'scenario', columns: 'team', scope: 'NS', team: 'Billing', sort: 'errors' };
    const { id } = await keep(author, { ...cut, page: '2', fromRow: '40' });
    expect((await db.ask(author, getSlice, id)).cut).toEqual(cut);
    const own = tile('table', id);
    const board = await put(author, [own]);
    expect(await look(author, board.id, own.id)).toEqual({
      shows: 'table',
      answer: await db.ask(author, getProgress, progressQuerySchema.parse(cut)),
    });
  });

  it('follow what is renamed, and say what is gone: a tile shows no figure of something wider', async () => {
    const { id } = await keep(lead, { cycle: 'ACC-2,INT-1', scope: 'PU-3', team: 'Metering' }, { isShared: true });
    const own = tile('figures', id);
    const board = await put(lead, [own]);
    await db.store.db.execute(sql`update teams set name = 'Meters' where name = 'Metering'`);
    await db.store.db.execute(sql`update nodes set code = 'PU-9' where code = 'PU-3'`);
    expect(await db.ask(lead, getSlice, id)).toMatchObject({ cut: { cycle: 'ACC-2,INT-1', scope: 'PU-9', team: 'Meters' }, gone: [] });
    expect((await look(lead, board.id, own.id)).shows).toBe('figures');
    // The slice names what is there no more.
    await db.store.db.execute(
      sql`update slices set anchors = replace(anchors::text, (select id::text from teams where name = 'Meters'), ${randomUUID()})::jsonb where id = ${id}`,
    );
    expect(await db.ask(lead, getSlice, id)).toMatchObject({ cut: { cycle: 'ACC-2,INT-1', scope: 'PU-9' }, gone: ['team Metering'] });
    expect(await look(lead, board.id, own.id)).toMatchObject({ shows: 'nothing', why: expect.stringContaining('team Metering') as string });
    // Called otherwise, it stays what it was.
    await db.perform(lead, changeSlice, { id, name: 'Otherwise', isShared: true });
    expect(await db.ask(lead, getSlice, id)).toMatchObject({ name: 'Otherwise', gone: ['team Metering'] });
    await db.perform(lead, dropSlice, id);
    expect((await db.ask(lead, getBoard, board.id)).tiles[0]).toMatchObject({ slice: null, isGone: true });
    expect(await look(lead, board.id, own.id)).toMatchObject({ shows: 'nothing', why: expect.stringContaining('slice is gone') as string });
    // Taken back, it is what the tile shows again; twice it is not.
    const again = { id, name: 'Kept', view: 'where', isShared: true, cut: { cycle: 'ACC-2' } } as const;
    await db.perform(lead, keepSlice, again);
    expect((await look(lead, board.id, own.id)).shows).toBe('figures');
    await expect(db.perform(lead, keepSlice, again)).rejects.toThrow('This slice is there already.');
  });

  it('refuse a cut that names nothing, or that its view does not understand', async () => {
    await expect(keep(lead, { team: 'Nobody’s' })).rejects.toThrow('There is no team “Nobody’s”; take it out of the cut first.');
    await expect(keep(lead, { cycle: '@last', team: '-' })).resolves.toBeTruthy();
    const broken = keepSliceSchema.safeParse({ name: 'X', view: 'where', isShared: false, cut: { rows: 'moon', scope: 'a b' } });
    expect(broken.error?.issues.map(({ path }) => path.join('.'))).toEqual(expect.arrayContaining(['cut.rows', 'cut.scope']));
    expect(keepSliceSchema.safeParse({ name: 'X', view: 'turns', isShared: false, cut: {} }).success).toBe(false);
  });

  it('are their owner’s; what is for all, whoever leads may change too', async () => {
    const own = await keep(author, {}, { name: 'Mine' });
    const shared = await keep(author, {}, { name: 'Ours', isShared: true });
    const names = async (who: Actor) => (await db.ask(who, listSlices, undefined)).map(({ name }) => name);
    expect(await names(observer)).toContain('Ours');
    expect(await names(observer)).not.toContain('Mine');
    await expect(db.ask(lead, getSlice, own.id)).rejects.toThrow('somebody’s own');
    const change = (who: Actor, id: SliceId) =>
      db.perform(who, changeSlice, { id, name: 'Changed', isShared: true, shows: { view: 'where', cut: {} } });
    await expect(change(observer, shared.id)).rejects.toThrow('You have no such slice');
    await expect(change(lead, own.id)).rejects.toThrow('You have no such slice');
    await change(lead, shared.id);
    await expect(put(observer, [tile('figures', own.id)])).rejects.toThrow('A slice that a tile should show is gone');
    const { id } = await put(author, [], { isShared: true });
    const as = (who: Actor, version: number) => db.perform(who, changeBoard, { id, version, name: 'New', isShared: true, tiles: [] });
    await expect(as(observer, 1)).rejects.toThrow('You have no such board');
    await as(lead, 1);
    await expect(as(author, 1)).rejects.toThrow('Somebody else changed this board meanwhile');
    await expect(db.perform(observer, dropBoard, id)).rejects.toThrow('You have no such board');
    await db.perform(author, dropBoard, id);
    await expect(db.ask(lead, getBoard, id)).rejects.toThrow('There is no such board');
  });

  it('show tiles of every kind; a broken one stops no other', async () => {
    const turns = await keep(lead, { cycle: 'ACC-2', status: 'failed,blocked', scope: 'NS' }, { view: 'turns' });
    const tiles = TILE_KINDS.map((kind) => tile(kind, kind === 'turns' ? turns.id : null));
    const { id } = await put(lead, tiles);
    for (const own of tiles) {
      const answer = await look(lead, id, own.id);
      expect([own.shows, answer.shows, tileAnswerSchema.safeParse(answer).error]).toEqual([own.shows, own.shows, undefined]);
    }
    await expect(look(lead, id, randomUUID())).rejects.toThrow('no such tile');
    expect(MOST_TILES).toBeGreaterThanOrEqual(TILE_KINDS.length);
  });

  it('a link lets one board be seen, in its maker’s name but without people; withdrawn, nothing', async () => {
    const turns = await keep(lead, { cycle: 'ACC-2' }, { view: 'turns' });
    const byPerson = await keep(lead, { columns: 'person' });
    const [holds, list, table, figures] = [tile('holds'), tile('turns', turns.id), tile('table', byPerson.id), tile('figures')];
    const { id } = await put(lead, [holds, list, table, figures]);
    const other = await put(lead, []);
    await expect(db.perform(author, makeBoardLink, id)).rejects.toThrow('does not allow');
    const { token } = await db.perform(lead, makeBoardLink, id);
    expect(JSON.stringify(await db.store.db.select().from(boardLinks))).not.toContain(token.slice(4));
    const seen = (await findObserver(db.store, token))!;
    expect(seen).toMatchObject({ roles: ['observer'], shownBoardId: id });
    const shown = await db.ask(seen, getBoard, id);
    expect(shown.tiles).toHaveLength(4);
    expect(JSON.stringify(shown)).not.toContain('Lea Marsh');
    await expect(db.ask(seen, getBoard, other.id)).rejects.toThrow('There is no such board');
    expect((await look(seen, id, figures.id, true)).shows).toBe('figures');
    for (const own of [list, table]) expect(await look(seen, id, own.id, true)).toMatchObject({ shows: 'nothing' });
    const told = JSON.stringify(await look(seen, id, holds.id, true));
    expect(told).toContain('Waiting for a tester');
    expect(told).not.toContain('Ines Varga');
    const another = await db.perform(lead, makeBoardLink, id);
    expect(await findObserver(db.store, token)).toBeUndefined();
    await db.perform(lead, withdrawBoardLink, id);
    expect(await findObserver(db.store, another.token)).toBeUndefined();
    await expect(db.perform(lead, withdrawBoardLink, id)).rejects.toThrow('This board has no link.');
  });

  it('a link is nobody’s when its maker has left the programme', async () => {
    const una = { ...(await db.actorOf('Una Petrel')), roles: ['lead'] as const };
    const { id } = await put(una, []);
    const { token } = await db.perform(una, makeBoardLink, id);
    expect(await findObserver(db.store, token)).toBeDefined();
    await db.perform(lead, leaveProgramme, { personId: una.personId, handTo: null });
    expect(await findObserver(db.store, token)).toBeUndefined();
    expect((await db.store.db.select().from(boardLinks)).some(({ personId }) => personId === una.personId)).toBe(false);
  });
});
