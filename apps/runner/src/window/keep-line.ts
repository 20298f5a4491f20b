import { PING_MS } from '@kindred-baton/core/window/frame';
import { WebSocket } from 'ws';

const [FIRST_REST_MS, LONGEST_REST_MS] = [500, 15_000];
const MOST_BYTES = 64_000;

interface LineOptions {
  readonly url: string;
  readonly token: string;
  readonly onText: (text: string) => void;
  readonly onLost: () => void;
}

export interface Line {
  /** Resolves when it has gone out, at once where there is no line just now. */
  readonly send: (data: string | Uint8Array) => Promise<void>;
  readonly stop: () => void;
}

/** A socket to the server, made by this side and made anew where it breaks, later and later while the server is away. */
export function keepLine({ url, token, onText, onLost }: LineOptions): Line {
  let isStopped = false;
  let restMs = FIRST_REST_MS;
  let timer: NodeJS.Timeout | undefined;
  let socket = connect();

  function connect(): WebSocket {
    const own = new WebSocket(url, { headers: { authorization: `Bearer ${token}` }, maxPayload: MOST_BYTES });
    // A server that asks no more is gone, though its line still stands.
    let silence: NodeJS.Timeout | undefined;
    const hearIt = () => {
      clearTimeout(silence);
      silence = setTimeout(() => own.terminate(), 3 * PING_MS);
    };
    own.on('ping', hearIt);
    own.on('open', () => {
      restMs = FIRST_REST_MS;
      hearIt();
    });
    own.on('message', (data) => onText((data as Buffer).toString()));
    // What closes it is heard of by close.
    own.on('error', () => undefined);
    own.on('close', () => {
      clearTimeout(silence);
      onLost();
      if (isStopped) return;
      timer = setTimeout(() => (socket = connect()), restMs);
      restMs = Math.min(LONGEST_REST_MS, restMs * 2);
    });
    return own;
  }

  return {
    send: (data) =>
      new Promise((resolve) => {
        if (socket.readyState === WebSocket.OPEN) socket.send(data, () => resolve());
        else resolve();
      }),
    stop: () => {
      isStopped = true;
      clearTimeout(timer);
      socket.terminate();
    },
  };
}
