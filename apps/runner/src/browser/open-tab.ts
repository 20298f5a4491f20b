import { createCapture } from '@kindred-baton/core/screens/create-capture';
import type { Capture } from '@kindred-baton/core/screens/capture';
import { readSnapshot, SNAPSHOT_STYLES } from '@kindred-baton/core/screens/read-snapshot';
import type { CDPSession, Page } from 'puppeteer-core';
import type { Reach } from './reach.ts';

export interface Tab {
  readonly page: Page;
  readonly cdp: CDPSession;
  /** By which the browser knows its page. */
  readonly frameId: string;
  /** The screen as it is now, as data. */
  readonly capture: () => Promise<Capture>;
  /** The screen as it was last looked at. */
  readonly lastCapture: () => Capture | undefined;
  /** Waits until the page has answered what was done to it: what it asked for is there, or so long. */
  readonly settle: (mostMs: number) => Promise<void>;
}

interface TabOptions {
  readonly reach: Reach;
  readonly onRefused: (address: string) => void;
}

/** A page under watch: what it asks for is counted, and let out only where it may go. */
export async function openTab(page: Page, { reach, onRefused }: TabOptions): Promise<Tab> {
  const cdp = await page.createCDPSession();
  const asked = await countRequests(cdp);
  cdp.on('Fetch.requestPaused', ({ requestId, request }) => {
    const isAllowed = reach.allows(request.url);
    if (!isAllowed) onRefused(request.url);
    const answer = isAllowed
      ? cdp.send('Fetch.continueRequest', { requestId })
      : cdp.send('Fetch.failRequest', { requestId, errorReason: 'AccessDenied' });
    // The page may be gone before it is answered.
    answer.catch(() => undefined);
  });
  await Promise.all([cdp.send('Fetch.enable', { patterns: [{ urlPattern: '*' }] }), cdp.send('DOM.enable')]);
  const { frameTree } = await cdp.send('Page.getFrameTree');
  let last: Capture | undefined;
  return {
    ...{ page, cdp, frameId: frameTree.frame.id },
    lastCapture: () => last,
    capture: async () => {
      const snapshot = await cdp.send('DOMSnapshot.captureSnapshot', { computedStyles: [...SNAPSHOT_STYLES], includeDOMRects: false });
      const { nodes, ...about } = readSnapshot(snapshot);
      last = createCapture(nodes, about);
      return last;
    },
    settle: (mostMs) => waitQuiet(page, asked, mostMs),
  };
}

/** Streams stay open for ever and are not waited for. */
const NEVER_ENDING = new Set(['EventSource', 'WebSocket', 'Media', 'Ping']);

/** What is asked for and has not been answered, and since when; the frames that are being replaced. */
interface Asked {
  readonly requests: ReadonlyMap<string, number>;
  readonly frames: ReadonlySet<string>;
}

async function countRequests(cdp: CDPSession): Promise<Asked> {
  const requests = new Map<string, number>();
  const frames = new Set<string>();
  cdp.on('Network.requestWillBeSent', ({ requestId, type }) => !NEVER_ENDING.has(type ?? '') && requests.set(requestId, Date.now()));
  cdp.on('Network.loadingFinished', ({ requestId }) => requests.delete(requestId));
  cdp.on('Network.loadingFailed', ({ requestId }) => requests.delete(requestId));
  cdp.on('Page.frameStartedLoading', ({ frameId }) => frames.add(frameId));
  cdp.on('Page.frameStoppedLoading', ({ frameId }) => frames.delete(frameId));
  cdp.on('Page.frameDetached', ({ frameId }) => frames.delete(frameId));
  await Promise.all([cdp.send('Network.enable'), cdp.send('Page.enable')]);
  return { requests, frames };
}

const PAUSE_MS = 8;
const QUIET_MS = 24;
/** What begins later than this after the page has dealt with an act is not its answer: a page that asks again and again keeps nobody. */
const ANSWER_BEGINS_MS = 80;

async function waitQuiet(page: Page, { requests, frames }: Asked, mostMs: number): Promise<void> {
  const end = Date.now() + mostMs;
  await passThrough(page);
  const answersUntil = Date.now() + ANSWER_BEGINS_MS;
  let quietSince = Date.now();
  while (Date.now() < end) {
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    const isWaiting = frames.size > 0 || [...requests.values()].some((since) => since < answersUntil);
    if (isWaiting) quietSince = Date.now();
    // Once more through the page: what an answer set off has begun by then.
    else if (Date.now() - quietSince >= QUIET_MS && (await passThrough(page)) && frames.size === 0) return;
  }
}

/**
 * Goes once through the page's own queue, however busy the machine is: what an act set off has begun when it comes back. Answers whether the
 * document stands; while it is being replaced there is none to ask.
 */
async function passThrough(page: Page): Promise<boolean> {
  try {
    // Without a named function within, as in take-picture.ts. A page that is not in front draws no frames.
    return await page.evaluate(async () => {
      await new Promise((resolve) => {
        setTimeout(resolve, 250);
        requestAnimationFrame(() => requestAnimationFrame(() => setTimeout(resolve, 0)));
      });
      return document.readyState !== 'loading';
    });
  } catch {
    return false;
  }
}
