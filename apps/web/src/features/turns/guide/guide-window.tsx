import type { ReactNode } from 'react';
import { createContext, useContext, useEffect, useState } from 'react';
import { createPortal } from 'react-dom';

/** The window in which the guide stands: the page's own, or a small one that stays on top. Keys and pasted pictures come from there. */
const GuideWindowContext = createContext<Window | null>(null);

export function useGuideWindow(): Window | null {
  const own = useContext(GuideWindowContext);
  return own ?? (typeof window === 'undefined' ? null : window);
}

interface PictureInPicture {
  readonly requestWindow: (size: { readonly width: number; readonly height: number }) => Promise<Window>;
}

const WIDTH = 430;
const HEIGHT = 720;
const SMALL_HEIGHT = 96;

const getPictureInPicture = () => (window as { documentPictureInPicture?: PictureInPicture }).documentPictureInPicture;

/**
 * Opens the guide in a window of its own: one that stays on top where the browser can (Document Picture-in-Picture), else a pop-up with the
 * turn's own address. `beside` is the former while it is open.
 */
export function useBeside(address: string) {
  const [beside, setBeside] = useState<Window | null>(null);
  useEffect(() => {
    if (!beside) return undefined;
    const stop = followTheme(beside.document);
    return () => {
      stop();
      beside.close();
    };
  }, [beside]);
  const open = async () => {
    const pictureInPicture = getPictureInPicture();
    const own = pictureInPicture ? await pictureInPicture.requestWindow({ width: WIDTH, height: HEIGHT }).catch(() => null) : null;
    if (!own) return void window.open(address, `guide ${address}`, `popup,width=${WIDTH},height=${HEIGHT}`);
    takeLooks(own.document);
    own.addEventListener('pagehide', () => setBeside(null));
    setBeside(own);
  };
  /** Makes the window as high as what it shows. */
  const fold = (isSmall: boolean) => {
    // A browser may refuse to size its window; the guide folds all the same.
    try {
      beside?.resizeTo(WIDTH, isSmall ? SMALL_HEIGHT : HEIGHT);
    } catch (error) {
      if (!(error instanceof DOMException)) throw error;
    }
  };
  return { beside, open, fold };
}

/** The page's styles, in another document. */
function takeLooks(to: Document): void {
  const from = window.document;
  to.title = 'Guide';
  to.documentElement.lang = from.documentElement.lang;
  for (const node of from.querySelectorAll('style, link[rel="stylesheet"]')) to.head.append(to.importNode(node, true));
}

/** The page's theme, now and whenever another is chosen. */
function followTheme(to: Document): () => void {
  const page = window.document.documentElement;
  const take = () => {
    const { theme } = page.dataset;
    if (theme) to.documentElement.dataset['theme'] = theme;
    else delete to.documentElement.dataset['theme'];
  };
  take();
  const observer = new MutationObserver(take);
  observer.observe(page, { attributes: true, attributeFilter: ['data-theme'] });
  return () => observer.disconnect();
}

/** Draws its children in the window beside, where there is one. */
export function Beside({ beside, children }: { readonly beside: Window | null; readonly children: ReactNode }) {
  if (!beside) return children;
  return createPortal(<GuideWindowContext value={beside}>{children}</GuideWindowContext>, beside.document.body);
}
