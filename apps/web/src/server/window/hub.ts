import { AppError } from '@kindred-baton/contracts/errors';
import type { AttemptId, RunnerId } from '@kindred-baton/core/ids';
import { runnerWordSchema } from '@kindred-baton/contracts/window/messages';
import type { WatchWord, WindowStands, WindowWord } from '@kindred-baton/contracts/window/messages';
import { readFrame } from '@kindred-baton/core/window/frame';
import type { Shown } from '@kindred-baton/store/window/find-shown';
import type { WebSocket } from 'ws';

/** Somebody who looks. */
export interface Watcher {
  readonly socket: WebSocket;
  /** What she may still see; throws where she may not, or not any more. */
  readonly check: () => Promise<Shown>;
}

interface Window {
  readonly watchers: Set<Watcher>;
  runner: RunnerId | null;
  stands: WindowStands;
  /** For whoever comes later to a page that rests; kept only while somebody looks. */
  lastFrame: Buffer | null;
  lastWord: string | null;
}

/** A frame goes to nobody whose line still has so much to carry: it is dropped, the next one is newer. */
const MOST_WAITING_BYTES = 300_000;
export const MOST_WATCHERS = 20;
/** By RFC 6455: what a line is closed with that may not be, and one with no more room. */
const [NOT_ALLOWED, NO_ROOM] = [1008, 1013];
const CHECK_MS = 900;

/** Where those who look meet those who show: by attempt, in this process. Frames are passed on, never kept beyond the newest. */
export class Hub {
  readonly #windows = new Map<AttemptId, Window>();
  readonly #makers = new Map<RunnerId, { readonly socket: WebSocket; readonly check: () => Promise<unknown> }>();
  #timer: NodeJS.Timeout | undefined;
  #checking: Promise<void> | undefined;

  /** A runner's line; one that was there before is closed. */
  addMaker(runner: RunnerId, socket: WebSocket, check: () => Promise<unknown>): void {
    this.#makers.get(runner)?.socket.close();
    this.#makers.set(runner, { socket, check });
    socket.on('message', (data, isBinary) => this.#hear(runner, data as Buffer, isBinary));
    socket.on('close', () => {
      if (this.#makers.get(runner)?.socket === socket) this.#makers.delete(runner);
      this.#settle();
    });
    this.#settle(runner);
    this.#watch();
  }

  addWatcher(attempt: AttemptId, watcher: Watcher, shown: Shown): void {
    const window = this.#windows.get(attempt) ?? { watchers: new Set(), runner: null, stands: 'away', lastFrame: null, lastWord: null };
    if (window.watchers.size >= MOST_WATCHERS) return watcher.socket.close(NO_ROOM, `At most ${MOST_WATCHERS} can look at the same time.`);
    this.#windows.set(attempt, window);
    window.watchers.add(watcher);
    watcher.socket.on('close', () => this.#leave(attempt, watcher));
    this.#place(attempt, window, shown);
    this.#tell(window, null);
    if (window.lastFrame) watcher.socket.send(window.lastFrame);
    if (window.lastWord) watcher.socket.send(window.lastWord);
    this.#watch();
  }

  #leave(attempt: AttemptId, watcher: Watcher): void {
    const window = this.#windows.get(attempt);
    if (!window?.watchers.delete(watcher)) return;
    if (window.watchers.size > 0) return this.#tell(window, null);
    this.#windows.delete(attempt);
    this.#order(window.runner, { kind: 'hide', attempt });
  }

  #order(runner: RunnerId | null, word: WatchWord): void {
    const maker = runner === null ? undefined : this.#makers.get(runner);
    if (maker?.socket.readyState === maker?.socket.OPEN) maker?.socket.send(JSON.stringify(word));
  }

  /** Who shows an attempt can change: it is given to another runner, or taken over, or ends. */
  #place(attempt: AttemptId, window: Window, { runnerId, isOver }: Shown): void {
    if (window.runner !== runnerId) {
      this.#order(window.runner, { kind: 'hide', attempt });
      window.runner = runnerId;
      window.lastWord = null;
      this.#order(runnerId, { kind: 'show', attempt });
    }
    this.#tell(window, isOver ? 'over' : this.#isShown(window) ? 'live' : 'away');
  }

  #isShown = ({ runner }: Window): boolean => runner !== null && this.#makers.has(runner);

  /** After a runner has come or gone: whoever looks at what it does hears of it. */
  #settle(came?: RunnerId): void {
    for (const [attempt, window] of this.#windows) {
      if (came !== undefined && window.runner === came) this.#order(came, { kind: 'show', attempt });
      if (window.stands !== 'over') this.#tell(window, this.#isShown(window) ? 'live' : 'away');
    }
  }

  /** null: as it stands, how many look has changed. */
  #tell(window: Window, stands: WindowStands | null): void {
    if (stands === window.stands) return;
    window.stands = stands ?? window.stands;
    const word: WindowWord = { kind: 'stands', stands: window.stands, watchers: window.watchers.size };
    for (const { socket } of window.watchers) socket.send(JSON.stringify(word));
  }

  #hear(runner: RunnerId, data: Buffer, isBinary: boolean): void {
    if (isBinary) return this.#passFrame(runner, data);
    const word = runnerWordSchema.safeParse(parse(data));
    const window = word.success ? this.#windows.get(word.data.attempt) : undefined;
    if (!word.success || window?.runner !== runner) return;
    // It says so too when it opens what somebody looks at already.
    if (!window.lastWord) this.#order(runner, { kind: 'show', attempt: word.data.attempt });
    window.lastWord = JSON.stringify(word.data);
    for (const { socket } of window.watchers) socket.send(window.lastWord);
  }

  #passFrame(runner: RunnerId, packed: Buffer): void {
    const frame = readFrame(packed);
    const window = frame && this.#windows.get(frame.about.attempt as AttemptId);
    // A runner shows what is its own and nothing else.
    if (window?.runner !== runner) return;
    window.lastFrame = packed;
    for (const { socket } of window.watchers) if (socket.bufferedAmount < MOST_WAITING_BYTES) socket.send(packed);
  }

  #watch(): void {
    this.#timer ??= setInterval(() => {
      // Where the answers are slow, no more is asked before they are there.
      this.#checking ??= this.#check().finally(() => (this.#checking = undefined));
    }, CHECK_MS).unref();
  }

  /** A right that was withdrawn closes the line within a second. */
  async #check(): Promise<void> {
    if (this.#windows.size === 0 && this.#makers.size === 0) {
      clearInterval(this.#timer);
      this.#timer = undefined;
    }
    // Where nobody can be asked just now, nothing is known to have been withdrawn.
    const close = (socket: WebSocket) => (error: unknown) => {
      if (error instanceof AppError && error.code !== 'unavailable') socket.close(NOT_ALLOWED);
    };
    await Promise.all([
      ...[...this.#makers.values()].map(({ socket, check }) => check().catch(close(socket))),
      ...[...this.#windows].flatMap(([attempt, window]) =>
        [...window.watchers].map((watcher) =>
          watcher
            .check()
            .then((shown) => this.#windows.get(attempt) === window && this.#place(attempt, window, shown), close(watcher.socket)),
        ),
      ),
    ]);
  }
}

function parse(data: Buffer): unknown {
  try {
    return JSON.parse(data.toString());
  } catch {
    return undefined;
  }
}
