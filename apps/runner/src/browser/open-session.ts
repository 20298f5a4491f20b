import type { Page } from 'puppeteer-core';
import type { BrowserHost } from './start-browser.ts';
import type { Tab } from './open-tab.ts';
import { openTab } from './open-tab.ts';
import type { Reach } from './reach.ts';

/** What the application said besides its page: a message box, a file to take away. */
export interface Said {
  readonly kind: 'alert' | 'question' | 'file';
  readonly words: string;
}

export interface Session {
  /** The tab in front: where the application opened another, that one. */
  readonly tab: () => Tab;
  /** Takes what was said since it was last taken. */
  readonly takeSaid: () => readonly Said[];
  /** Addresses that were asked for and are outside of what it may reach. */
  readonly takeRefused: () => readonly string[];
  readonly isCrashed: () => boolean;
  /** Forgets who was signed in. */
  readonly forgetSignIn: () => Promise<void>;
  readonly close: () => Promise<void>;
}

/** A profile of its own, empty, in a browser; it reaches nothing but what it is allowed to. Closing it leaves nothing behind. */
export async function openSession({ browser, whole, filesFolder }: BrowserHost, { reach }: { readonly reach: Reach }): Promise<Session> {
  const profile = await browser.createBrowserContext();
  const said: Said[] = [];
  const refused: string[] = [];
  const tabs: Tab[] = [];
  let isCrashed = false;
  const onGone = () => (isCrashed = true);
  browser.on('disconnected', onGone);
  await whole.send('Browser.setDownloadBehavior', {
    ...{ behavior: 'allow', downloadPath: filesFolder, eventsEnabled: true },
    ...(profile.id === undefined ? {} : { browserContextId: profile.id }),
  });
  // All sessions of a browser hear of every file; their own come from their own pages.
  const onFile = ({ frameId, suggestedFilename }: { readonly frameId: string; readonly suggestedFilename: string }) => {
    if (tabs.some((tab) => tab.frameId === frameId)) said.push({ kind: 'file', words: suggestedFilename });
  };
  whole.on('Browser.downloadWillBegin', onFile);
  const take = async (page: Page) => {
    const tab = await openTab(page, { reach, onRefused: (address) => refused.push(address) });
    tabs.push(tab);
    page.on('dialog', (dialog) => {
      const isQuestion = dialog.type() === 'confirm' || dialog.type() === 'prompt';
      if (dialog.type() !== 'beforeunload') said.push({ kind: isQuestion ? 'question' : 'alert', words: dialog.message() });
      // The page may be gone before it is answered.
      (isQuestion ? dialog.dismiss() : dialog.accept()).catch(() => undefined);
    });
    page.on('popup', (popup) => {
      // A tab that closes again at once is none that anybody works in.
      if (popup) take(popup).catch(() => undefined);
    });
    page.on('error', () => (isCrashed = true));
    page.on('close', () => tabs.length > 1 && tabs.splice(tabs.indexOf(tab), 1));
  };
  await take(await profile.newPage());
  return {
    tab: () => tabs.at(-1)!,
    takeSaid: () => said.splice(0),
    takeRefused: () => refused.splice(0),
    isCrashed: () => isCrashed,
    forgetSignIn: () => tabs.at(-1)!.cdp.send('Network.clearBrowserCookies'),
    close: async () => {
      browser.off('disconnected', onGone);
      // A browser that has ended has nothing left to close.
      whole.off('Browser.downloadWillBegin', onFile);
      if (browser.connected) await profile.close();
    },
  };
}
