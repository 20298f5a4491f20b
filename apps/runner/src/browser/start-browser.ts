import { mkdtempSync, readdirSync, readFileSync, readlinkSync, rmSync } from 'node:fs';
import { rm } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import type { Browser, CDPSession } from 'puppeteer-core';
import puppeteer from 'puppeteer-core';

const ARGS = [
  ...[
    '--no-sandbox',
    '--disable-quic',
    '--no-first-run',
    '--disable-background-networking',
    '--disable-component-update',
    '--disable-sync',
  ],
  ...['--disable-dev-shm-usage', '--no-default-browser-check', '--disable-extensions', '--force-color-profile=srgb'],
  '--font-render-hinting=none',
  '--disable-gpu',
];
/** A browser that does not answer for so long is stuck. */
const ANSWER_MS = 30_000;
const VIEWPORT = { width: 1280, height: 800 };

/** A browser of a runner; each attempt has a profile of its own in it. */
export interface BrowserHost {
  readonly browser: Browser;
  /** The browser as a whole: files that are taken away are heard of here. */
  readonly whole: CDPSession;
  /** Where files that are taken away come to. */
  readonly filesFolder: string;
  readonly close: () => Promise<void>;
}

const PREFIX = 'kindred-baton-runner-';

/** Starts a browser with a folder of its own in `home`, which goes with it. */
export async function startBrowser(executablePath: string, home = tmpdir()): Promise<BrowserHost> {
  const folder = mkdtempSync(path.join(home, PREFIX));
  const drop = () => rm(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
  const started = puppeteer.launch({
    executablePath,
    userDataDir: path.join(folder, 'profile'),
    args: ARGS,
    defaultViewport: VIEWPORT,
    protocolTimeout: ANSWER_MS,
  });
  const browser = await started.catch(async (error: unknown) => {
    await drop();
    throw error;
  });
  const whole = await browser.target().createCDPSession();
  return {
    ...{ browser, whole },
    filesFolder: path.join(folder, 'files'),
    close: async () => {
      if (browser.connected) await browser.close();
      // What is left of a browser that was killed writes on.
      endGroup(browser.process()?.pid);
      await drop();
    },
  };
}

/** Ends browsers in `home` that a process of before left behind when it was killed, with their folders. */
export function endLeftBrowsers(home: string): void {
  for (const name of readdirSync(home).filter((one) => one.startsWith(PREFIX))) {
    const folder = path.join(home, name);
    endGroup(findOwner(path.join(folder, 'profile')));
    rmSync(folder, { recursive: true, force: true, maxRetries: 20, retryDelay: 100 });
  }
}

/** The browser notes in its profile which process uses it; undefined where that one is gone, and its number may be another's. */
function findOwner(profile: string): number | undefined {
  try {
    const pid = Number(readlinkSync(path.join(profile, 'SingletonLock')).split('-').at(-1));
    return readFileSync(`/proc/${pid}/cmdline`, 'utf8').includes(profile) ? pid : undefined;
  } catch {
    return undefined;
  }
}

/** Ends what a browser started, where any of it is left. */
function endGroup(pid: number | undefined): void {
  try {
    if (pid !== undefined) process.kill(-pid, 'SIGKILL');
  } catch (error) {
    if (!(error instanceof Error && 'code' in error && error.code === 'ESRCH')) throw error;
  }
}
