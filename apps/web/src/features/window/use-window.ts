import type { RunnerWord, WindowStands, WindowWord } from '@kindred-baton/contracts/window/messages';
import type { FrameAbout } from '@kindred-baton/core/window/frame';
import { readFrame } from '@kindred-baton/core/window/frame';
import { useEffect, useRef, useState } from 'react';

/** *connecting*: the line is not there yet, or not any more and made anew; *refused*: this person may not look, or no more can. */
export type LineStands = WindowStands | 'connecting' | 'refused';

export interface WindowState {
  readonly stands: LineStands;
  /** How many look, this one too. */
  readonly watchers: number;
  /** The step under way, and the place that it uses. */
  readonly at: Pick<RunnerWord, 'step' | 'place'> | null;
}

export interface Frame {
  readonly about: FrameAbout;
  readonly image: ImageBitmap;
}

const NOTHING: WindowState = { stands: 'connecting', watchers: 0, at: null };
const [FIRST_REST_MS, LONGEST_REST_MS] = [500, 10_000];
/** What a line is closed with that is not made anew: no right to it, no room (server/window/hub.ts). */
const REFUSALS = new Set([1008, 1013]);

/** The line to what a runner does in an attempt; `draw` is given the newest frame, and frames that come while it draws are left out. */
export function useWindow(address: string | null, draw: (frame: Frame) => void): WindowState {
  const [state, setState] = useState(NOTHING);
  const drawn = useRef(draw);
  useEffect(() => {
    drawn.current = draw;
  });
  useEffect(() => {
    if (address === null) return undefined;
    let [restMs, isEnded] = [FIRST_REST_MS, false];
    let timer: ReturnType<typeof setTimeout> | undefined;
    let socket: WebSocket;
    const show = createShow((frame) => drawn.current(frame));
    const connect = () => {
      socket = new WebSocket(address);
      socket.binaryType = 'arraybuffer';
      socket.addEventListener('message', ({ data }: MessageEvent<string | ArrayBuffer>) => {
        restMs = FIRST_REST_MS;
        if (typeof data === 'string') setState((before) => note(before, JSON.parse(data) as WindowWord));
        else show(data);
      });
      socket.addEventListener('close', ({ code }) => {
        if (isEnded) return;
        const isRefused = REFUSALS.has(code);
        setState((before) => ({ ...before, stands: isRefused ? 'refused' : before.stands === 'over' ? 'over' : 'connecting' }));
        if (!isRefused) timer = setTimeout(connect, restMs);
        restMs = Math.min(LONGEST_REST_MS, restMs * 2);
      });
    };
    connect();
    return () => {
      isEnded = true;
      clearTimeout(timer);
      socket.close();
    };
  }, [address]);
  return state;
}

const note = (before: WindowState, word: WindowWord): WindowState =>
  word.kind === 'at'
    ? { ...before, at: { step: word.step, place: word.place } }
    : { ...before, stands: word.stands, watchers: word.watchers };

/** One at a time is made to a picture; the newest waits, older ones are dropped. */
function createShow(draw: (frame: Frame) => void): (packed: ArrayBuffer) => void {
  let waiting: ArrayBuffer | null = null;
  let isBusy = false;
  const next = async () => {
    for (isBusy = true; waiting;) {
      const frame = readFrame(new Uint8Array(waiting));
      waiting = null;
      if (!frame) continue;
      const image = await createImageBitmap(new Blob([frame.jpeg as BlobPart], { type: 'image/jpeg' })).catch(() => null);
      if (image) draw({ about: frame.about, image });
    }
    isBusy = false;
  };
  return (packed) => {
    waiting = packed;
    if (!isBusy) void next();
  };
}
