import type { Box } from '@kindred-baton/core/screens/capture';
import type { Tab } from './open-tab.ts';

const QUALITY = 70;

/** The screen as it is seen now, as JPEG, with the place that was used outlined; undefined where the page is gone. */
export async function takePicture({ page, cdp }: Tab, place: Box | null): Promise<Uint8Array | undefined> {
  try {
    if (place) await page.evaluate(mark, { ...place });
    const { data } = await cdp.send('Page.captureScreenshot', { format: 'jpeg', quality: QUALITY, optimizeForSpeed: true });
    if (place) await page.evaluate(unmark);
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
