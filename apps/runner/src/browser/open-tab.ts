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
  return {
    ...{ page, cdp, frameId: frameTree.frame.id },
    capture: async () => {
      const snapshot = await cdp.send('DOMSnapshot.captureSnapshot', { computedStyles: [...SNAPSHOT_STYLES], includeDOMRects: false });
      const { nodes, ...about } = readSnapshot(snapshot);
      return createCapture(nodes, about);
    },
    settle: (mostMs) => waitQuiet(page, asked, mostMs),
  };
}

/** Streams stay open for ever and are not waited for. */
const NEVER_ENDING = new Set(['EventSource', 'WebSocket', 'Media', 'Ping']);

/** What is asked for and has not been answered, and since when. */
type Asked = ReadonlyMap<string, number>;

async function countRequests(cdp: CDPSession): Promise<Asked> {
  const open = new Map<string, number>();
  cdp.on('Network.requestWillBeSent', ({ requestId, type }) => !NEVER_ENDING.has(type ?? '') && open.set(requestId, Date.now()));
  cdp.on('Network.loadingFinished', ({ requestId }) => open.delete(requestId));
  cdp.on('Network.loadingFailed', ({ requestId }) => open.delete(requestId));
  await cdp.send('Network.enable');
  return open;
}

const PAUSE_MS = 8;
/** An act shows in the next frames: a request begins, a form goes out. */
const QUIET_MS = 24;
/** What begins later than this after an act is not its answer: a page that asks again and again keeps nobody. */
const ANSWER_BEGINS_MS = 80;

async function waitQuiet(page: Page, asked: Asked, mostMs: number): Promise<void> {
  const from = Date.now();
  let quietSince = from;
  while (Date.now() - from < mostMs) {
    await new Promise((resolve) => setTimeout(resolve, PAUSE_MS));
    const isWaiting = [...asked.values()].some((since) => since - from < ANSWER_BEGINS_MS);
    if (isWaiting) quietSince = Date.now();
    else if (Date.now() - quietSince >= QUIET_MS && (await isLoaded(page))) return;
  }
}

/** Whether the document stands; while it is being replaced there is none to ask. */
async function isLoaded(page: Page): Promise<boolean> {
  try {
    return (await page.evaluate(() => document.readyState)) !== 'loading';
  } catch {
    return false;
  }
}
