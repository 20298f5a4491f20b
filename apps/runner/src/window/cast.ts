import { packFrame } from '@kindred-baton/core/window/frame';
import type { CDPSession, Protocol } from 'puppeteer-core';
import type { Session } from '../browser/open-session.ts';
import type { Tab } from '../browser/open-tab.ts';

const QUALITY = 60;
const MOST = { maxWidth: 1_280, maxHeight: 960 };
/** No more than so many frames a second: what is under test has the machine first. */
const APART_MS = 60;
const LOOK_MS = 300;

/** Sends a frame on; resolves when it has gone out. */
export type SendFrame = (packed: Uint8Array) => Promise<void>;

/** Shows a session as it changes, the tab in front of it, until it is ended. A frame is asked for when the one before has gone out. */
export function castSession(session: Session, attempt: string, send: SendFrame): () => void {
  let shown: { readonly tab: Tab; readonly stop: () => void } | undefined;
  const follow = () => {
    const tab = session.tab();
    if (shown?.tab === tab) return;
    shown?.stop();
    shown = { tab, stop: castTab(tab.cdp, attempt, send) };
  };
  follow();
  const timer = setInterval(follow, LOOK_MS);
  return () => {
    clearInterval(timer);
    shown?.stop();
  };
}

function castTab(cdp: CDPSession, attempt: string, send: SendFrame): () => void {
  // A page that is gone has nothing to show any more.
  const ask = (method: 'Page.startScreencast' | 'Page.stopScreencast' | 'Page.screencastFrameAck', params?: object) =>
    cdp.send(method, params as never).catch(() => undefined);
  const onFrame = async ({ data, metadata, sessionId }: Protocol.Page.ScreencastFrameEvent) => {
    const { deviceWidth: width, deviceHeight: height, scrollOffsetX: scrollX, scrollOffsetY: scrollY } = metadata;
    const from = performance.now();
    await send(packFrame({ attempt, width, height, scrollX, scrollY }, Buffer.from(data, 'base64')));
    const rest = APART_MS - (performance.now() - from);
    if (rest > 0) await new Promise((resolve) => setTimeout(resolve, rest));
    await ask('Page.screencastFrameAck', { sessionId });
  };
  const listen = (event: Protocol.Page.ScreencastFrameEvent) => void onFrame(event);
  cdp.on('Page.screencastFrame', listen);
  void ask('Page.startScreencast', { format: 'jpeg', quality: QUALITY, ...MOST });
  return () => {
    cdp.off('Page.screencastFrame', listen);
    void ask('Page.stopScreencast');
  };
}
