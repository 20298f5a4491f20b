import type { RunnerWord } from '@kindred-baton/contracts/window/messages';
import { watchWordSchema } from '@kindred-baton/contracts/window/messages';
import type { AttemptId } from '@kindred-baton/core/ids';
import type { Logger } from 'pino';
import type { Session } from '../browser/open-session.ts';
import { castSession } from './cast.ts';
import { keepLine } from './keep-line.ts';

interface WindowsOptions {
  /** With the programme: http://host:port/programme. */
  readonly address: string;
  readonly token: string;
  readonly log: Logger;
}

type Place = RunnerWord['place'];

/** What of a session is shown to whoever looks. */
export interface Window {
  /** Where it looks for which step. */
  readonly at: (step: number, place: Place) => void;
  readonly close: () => void;
}

export interface Windows {
  readonly open: (attempt: AttemptId, session: Session) => Window;
  readonly stop: () => void;
}

interface Open {
  readonly session: Session;
  at: { readonly step: number; readonly place: Place };
  endCast: (() => void) | undefined;
}

function endCast(one: Open): void {
  one.endCast?.();
  one.endCast = undefined;
}

/** What a runner does, for whoever looks. Nothing goes out while nobody does; nothing of an attempt waits for it. */
export function openWindows({ address, token, log }: WindowsOptions): Windows {
  const { origin, pathname } = new URL(address);
  const windows = new Map<AttemptId, Open>();
  const line = keepLine({
    url: `${origin.replace(/^http/, 'ws')}/api/${pathname.replaceAll('/', '')}/runners/window`,
    token,
    onText: (text) => {
      try {
        hear(text);
      } catch (error) {
        log.warn({ words: String(error) }, 'the server said of a window what is not understood');
      }
    },
    onLost: () => windows.forEach(endCast),
  });
  const say = (attempt: AttemptId, { at }: Open) => void line.send(JSON.stringify({ kind: 'at', attempt, ...at } satisfies RunnerWord));

  function hear(text: string): void {
    const { kind, attempt } = watchWordSchema.parse(JSON.parse(text));
    const one = windows.get(attempt);
    if (!one) return;
    if (kind === 'hide') return endCast(one);
    one.endCast ??= castSession(one.session, attempt, line.send);
    say(attempt, one);
  }

  return {
    open: (attempt, session) => {
      const one: Open = { session, at: { step: 0, place: null }, endCast: undefined };
      windows.set(attempt, one);
      // Whoever looked before it was there is told of it.
      say(attempt, one);
      return {
        at: (step, place) => {
          one.at = { step, place };
          if (one.endCast) say(attempt, one);
        },
        close: () => {
          endCast(one);
          if (windows.get(attempt) === one) windows.delete(attempt);
        },
      };
    },
    stop: () => {
      windows.forEach(endCast);
      line.stop();
    },
  };
}
