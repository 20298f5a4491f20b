import type { Box } from '@kindred-baton/core/screens/capture';
import type { Tab } from './open-tab.ts';

const QUALITY = 70;

/** The screen as it is seen now, as JPEG, with the place that was used outlined and secrets that stand on it hidden; undefined where the page is gone. */
export async function takePicture({ page, cdp }: Tab, place: Box | null, secrets: readonly string[] = []): Promise<Uint8Array | undefined> {
  try {
    if (secrets.length > 0) await page.evaluate(hide, [...secrets]);
    if (place) await page.evaluate(mark, { ...place });
    const { data } = await cdp.send('Page.captureScreenshot', { format: 'jpeg', quality: QUALITY, optimizeForSpeed: true });
    if (place) await page.evaluate(unmark);
    if (secrets.length > 0) await page.evaluate(unhide);
    return Buffer.from(data, 'base64');
  } catch {
    return undefined;
  }
}

/** Runs in the page. */
function mark({ x, y, width, height }: { x: number; y: number; width: number; height: number }): void {
  const frame = document.createElement('div');
  frame.id = 'kindred-baton-mark';
  frame.style.cssText = `position:absolute;left:${x - 3}px;top:${y - 3}px;width:${width}px;height:${height}px;border:3px solid #d98324;border-radius:4px;pointer-events:none;z-index:2147483647`;
  document.documentElement.append(frame);
}

/** Runs in the page. */
function unmark(): void {
  document.getElementById('kindred-baton-mark')?.remove();
}

/**
 * Runs in the page: nothing that holds a secret is seen for as long as the picture takes. Frames and shadow roots too. It has no named function
 * within, since what loads TypeScript as it runs wraps those in a helper that the page does not have.
 */
function hide(secrets: readonly string[]): void {
  const roots: (Document | ShadowRoot)[] = [document];
  for (const root of roots) {
    for (const element of root.querySelectorAll('*')) {
      const own = [...element.childNodes].filter((node) => node.nodeType === Node.TEXT_NODE).map((node) => node.textContent);
      const texts = [...own, (element as HTMLInputElement).value].filter((text) => typeof text === 'string');
      if (texts.some((text) => secrets.some((secret) => text.includes(secret))))
        element.setAttribute('data-kindred-baton-hidden', (element as HTMLElement).style.visibility);
      if (element.shadowRoot) roots.push(element.shadowRoot);
      if (element instanceof HTMLIFrameElement && element.contentDocument) roots.push(element.contentDocument);
    }
    for (const element of root.querySelectorAll<HTMLElement>('[data-kindred-baton-hidden]')) element.style.visibility = 'hidden';
  }
}

/** Runs in the page, as hide does. */
function unhide(): void {
  const roots: (Document | ShadowRoot)[] = [document];
  for (const root of roots) {
    for (const element of root.querySelectorAll<HTMLElement>('*')) {
      if (element.hasAttribute('data-kindred-baton-hidden')) {
        element.style.visibility = element.getAttribute('data-kindred-baton-hidden') ?? '';
        element.removeAttribute('data-kindred-baton-hidden');
      }
      if (element.shadowRoot) roots.push(element.shadowRoot);
      if (element instanceof HTMLIFrameElement && element.contentDocument) roots.push(element.contentDocument);
    }
  }
}
