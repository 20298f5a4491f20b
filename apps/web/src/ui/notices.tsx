import X from 'lucide-react/icons/x';
import type { ReactNode } from 'react';
import { createContext, useCallback, useContext, useMemo, useRef, useState } from 'react';

export interface Notice {
  readonly kind: 'done' | 'problem';
  readonly text: string;
  readonly action?: { readonly label: string; readonly run: () => void };
}

interface Shown extends Notice {
  readonly id: number;
}

const NoticeContext = createContext<(notice: Notice) => void>(() => {});

export const useNotice = () => useContext(NoticeContext);

const SHOWN_MS = 6_000;

/** Short sentences at the foot of the page; problems stay until they are closed. */
export function NoticeProvider({ children }: { readonly children: ReactNode }) {
  const [shown, setShown] = useState<readonly Shown[]>([]);
  const next = useRef(1);
  const close = useCallback((id: number) => setShown((list) => list.filter((notice) => notice.id !== id)), []);
  const notify = useCallback(
    (notice: Notice) => {
      const id = next.current++;
      setShown((list) => [...list.filter((other) => other.text !== notice.text).slice(-2), { ...notice, id }]);
      if (notice.kind === 'done') setTimeout(() => close(id), SHOWN_MS);
    },
    [close],
  );
  const list = useMemo(
    () => shown.map((notice) => <NoticeLine key={notice.id} notice={notice} onClose={() => close(notice.id)} />),
    [shown, close],
  );
  return (
    <NoticeContext value={notify}>
      {children}
      <div
        className="no-print fixed bottom-4 left-1/2 z-50 flex w-max max-w-[calc(100vw-2rem)] -translate-x-1/2 flex-col gap-2"
        role="status"
        aria-live="polite"
      >
        {list}
      </div>
    </NoticeContext>
  );
}

function NoticeLine({ notice, onClose }: { readonly notice: Shown; readonly onClose: () => void }) {
  const edge = notice.kind === 'problem' ? 'border-l-failed' : 'border-l-baton';
  return (
    <div className={`floats card flex items-center gap-3 border-l-4 px-4 py-2 shadow-float ${edge}`}>
      <span>{notice.text}</span>
      {notice.action && (
        <button
          type="button"
          className="button button-small"
          onClick={() => {
            notice.action?.run();
            onClose();
          }}
        >
          {notice.action.label}
        </button>
      )}
      <button type="button" className="button button-quiet button-small" onClick={onClose} aria-label="Close this message">
        <X size={15} aria-hidden />
      </button>
    </div>
  );
}
