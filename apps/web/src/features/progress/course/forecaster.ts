import type { ForecastMessage, ForecastRequest } from './course.worker.ts';

type Painter = Pick<Worker, 'addEventListener' | 'postMessage' | 'terminate'>;

export interface Told {
  /** What was asked about. */
  readonly about: string;
  /** null: it broke. */
  readonly message: ForecastMessage | null;
}

/**
 * One worker at a time. In a busy cycle the turns change more often than a forecast takes: what is asked about the same meanwhile waits, the newest alone, and is drawn
 * when the one before is through; what is asked about something else is drawn at once.
 */
export function createForecaster(startWorker: () => Painter, tell: (told: Told) => void) {
  let busy: { readonly worker: Painter; readonly about: string } | null = null;
  let next: ForecastRequest | null = null;
  const stop = () => {
    busy?.worker.terminate();
    busy = null;
    next = null;
  };
  const start = (about: string, request: ForecastRequest) => {
    const worker = startWorker();
    busy = { worker, about };
    const end = () => {
      const waiting = next;
      stop();
      if (waiting) start(about, waiting);
    };
    worker.addEventListener('message', ({ data }: MessageEvent<ForecastMessage>) => {
      tell({ about, message: data });
      if (data.kind === 'remedies') end();
    });
    worker.addEventListener('error', () => {
      tell({ about, message: null });
      end();
    });
    worker.postMessage(request);
  };
  return {
    stop,
    ask: (about: string, request: ForecastRequest) => {
      if (busy?.about === about) next = request;
      else {
        stop();
        start(about, request);
      }
    },
  };
}
