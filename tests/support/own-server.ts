import { mkdtempSync, writeFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Visitor } from './browser.ts';
import { launchBrowser, openAs } from './browser.ts';
import { copyTemplate } from './test-store.ts';
import { startWebServer } from './web-server.ts';

export interface OwnServer {
  readonly visitor: Visitor;
  /** Another person, signed in to the same server. */
  readonly openAs: (person: string) => Promise<Visitor>;
  readonly close: () => Promise<void>;
}

/** A server with a demo of its own, for tests that change what others look at, and one person signed in to it. */
export async function openOwnServer(person: string): Promise<OwnServer> {
  const server = await startWebServer(await copyTemplate('demo'));
  const chromium = await launchBrowser();
  const visitor = await openAs(chromium.browser, server.baseUrl, person);
  const close = async () => {
    await chromium.close();
    await server.stop();
  };
  return { visitor, openAs: (other) => openAs(chromium.browser, server.baseUrl, other), close };
}

/** A file to be chosen in the browser. */
export function toFile(name: string, content: string | Uint8Array): string {
  const file = path.join(mkdtempSync(path.join(tmpdir(), 'kindred-baton-')), name);
  writeFileSync(file, content);
  return file;
}
