import { EventEmitter } from 'node:events';
import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId, RunnerId } from '@kindred-baton/core/ids';
import { packFrame } from '@kindred-baton/core/window/frame';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import type { WebSocket } from 'ws';
import { Hub, MOST_WATCHERS } from './hub.ts';

const [RUNNER, ATTEMPT] = ['r1' as RunnerId, '0b6f2b1e-3f0c-4c6e-9a55-1c4f0d3a7a11' as AttemptId];
const SHOWN = { runnerId: RUNNER, isOver: false };

class Line extends EventEmitter {
  readonly OPEN = 1;
  readyState = 1;
  bufferedAmount = 0;
  closedWith: number | undefined;
  readonly words: { kind: string; stands?: string; watchers?: number }[] = [];
  readonly frames: Uint8Array[] = [];
  send(data: string | Uint8Array): void {
    if (typeof data === 'string') this.words.push(JSON.parse(data) as never);
    else this.frames.push(data);
  }
  close(code?: number): void {
    this.closedWith = code;
    this.readyState = 3;
    this.emit('close');
  }
}
const asSocket = (line: Line) => line as unknown as WebSocket;
const frame = (attempt: string = ATTEMPT, size = 10) =>
  Buffer.from(packFrame({ attempt, width: 10, height: 10, scrollX: 0, scrollY: 0 }, new Uint8Array(size)));

describe('where those who look meet those who show', () => {
  beforeEach(() => void vi.useFakeTimers());
  afterEach(() => void vi.useRealTimers());

  function open() {
    const [hub, maker] = [new Hub(), new Line()];
    hub.addMaker(RUNNER, asSocket(maker), () => Promise.resolve());
    const look = (check = () => Promise.resolve(SHOWN)) => {
      const line = new Line();
      hub.addWatcher(ATTEMPT, { socket: asSocket(line), check }, SHOWN);
      return line;
    };
    return { hub, maker, look };
  }

  it('asks to be shown with the first who looks, and no more with the last who goes', () => {
    const { maker, look } = open();
    const [one, two] = [look(), look()];
    expect(maker.words).toEqual([{ kind: 'show', attempt: ATTEMPT }]);
    expect(one.words.at(-1)).toEqual({ kind: 'stands', stands: 'live', watchers: 2 });
    one.close();
    expect(two.words.at(-1)?.watchers).toBe(1);
    two.close();
    expect(maker.words.at(-1)).toEqual({ kind: 'hide', attempt: ATTEMPT });
  });

  it('drops frames for a line that is slow, and sends the newest at once to whoever comes', () => {
    const { maker, look } = open();
    const [slow, quick] = [look(), look()];
    slow.bufferedAmount = 1_000_000;
    for (let times = 0; times < 5; times += 1) maker.emit('message', frame(), true);
    expect([slow.frames.length, quick.frames.length]).toEqual([0, 5]);
    slow.bufferedAmount = 0;
    maker.emit('message', frame(ATTEMPT, 20), true);
    expect(slow.frames).toHaveLength(1);
    expect(look().frames).toEqual([slow.frames[0]]);
  });

  it('passes on nothing that is not of the runner’s own attempts, and no word that is none', () => {
    const { hub, maker, look } = open();
    const line = look();
    const before = line.words.length;
    const other = new Line();
    hub.addMaker('r2' as RunnerId, asSocket(other), () => Promise.resolve());
    other.emit('message', frame(), true);
    other.emit('message', Buffer.from(JSON.stringify({ kind: 'at', attempt: ATTEMPT, step: 3, place: null })), false);
    maker.emit('message', frame('elsewhere'), true);
    for (const bad of [Buffer.from('nonsense'), Buffer.from('{"kind":"at"}'), Buffer.alloc(9)]) {
      maker.emit('message', bad, false);
      maker.emit('message', bad, true);
    }
    expect([line.frames.length, line.words.length]).toEqual([0, before]);
    maker.emit('message', Buffer.from(JSON.stringify({ kind: 'at', attempt: ATTEMPT, step: 3, place: null })), false);
    expect(line.words.at(-1)).toEqual({ kind: 'at', attempt: ATTEMPT, step: 3, place: null });
  });

  it('closes who may not look any more within a second; while nobody can be asked, nobody', async () => {
    const { look } = open();
    const gone = look(() => Promise.reject(new AppError('not found', 'Not yours.')));
    const unknown = look(() => Promise.reject(new AppError('unavailable', 'Away.')));
    await vi.advanceTimersByTimeAsync(1_000);
    expect([gone.closedWith, unknown.closedWith]).toEqual([1008, undefined]);
  });

  it('says who has gone: the runner, and the attempt that ended or went to another', async () => {
    const { hub, maker, look } = open();
    let shown: { runnerId: RunnerId | null; isOver: boolean } = SHOWN;
    const line = look(() => Promise.resolve(shown) as never);
    maker.close();
    expect(line.words.at(-1)?.stands).toBe('away');
    const other = new Line();
    hub.addMaker('r2' as RunnerId, asSocket(other), () => Promise.resolve());
    shown = { runnerId: 'r2' as RunnerId, isOver: false };
    await vi.advanceTimersByTimeAsync(1_000);
    expect([other.words.at(-1), line.words.at(-1)?.stands]).toEqual([{ kind: 'show', attempt: ATTEMPT }, 'live']);
    shown = { runnerId: null, isOver: true };
    await vi.advanceTimersByTimeAsync(1_000);
    expect(line.words.at(-1)?.stands).toBe('over');
  });

  it('has room for so many', () => {
    const { look } = open();
    const lines = Array.from({ length: MOST_WATCHERS + 1 }, () => look());
    expect(lines.map(({ closedWith }) => closedWith).filter((code) => code !== undefined)).toEqual([1013]);
  });
});
