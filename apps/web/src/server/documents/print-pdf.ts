import { existsSync } from 'node:fs';
import { mkdtemp, rm, writeFile } from 'node:fs/promises';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { pathToFileURL } from 'node:url';
import { AppError } from '@kindred-baton/contracts/errors';
import puppeteer from 'puppeteer-core';

const BROWSERS = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];
const LIMIT_MS = 120_000;
const ARGS = [
  ...['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update'],
  ...['--disable-sync', '--disable-dev-shm-usage', '--no-default-browser-check', '--disable-extensions'],
];

export interface FileBeside {
  /** As the document names it. */
  readonly name: string;
  readonly content: Uint8Array;
}

/** A document as PDF, printed by Chromium; it may fetch nothing but files that are laid beside it. */
export async function printPdf(html: string, beside: AsyncIterable<FileBeside> | Iterable<FileBeside> = []): Promise<Uint8Array> {
  const executablePath = [process.env['CHROMIUM_PATH'], ...BROWSERS].find((file) => file !== undefined && existsSync(file));
  if (!executablePath)
    throw new AppError(
      'invalid',
      'PDF needs Chromium, which this server does not have. Choose the printable document and print it, or install chromium.',
    );
  const folder = await mkdtemp(path.join(tmpdir(), 'kindred-baton-pdf-'));
  try {
    const file = path.join(folder, 'document.html');
    await writeFile(file, html);
    for await (const { name, content } of beside) await writeFile(path.join(folder, path.basename(name)), content);
    return await printFile(file, { executablePath, userDataDir: path.join(folder, 'browser') });
  } finally {
    await rm(folder, { recursive: true, force: true });
  }
}

async function printFile(file: string, browserAt: { readonly executablePath: string; readonly userDataDir: string }): Promise<Uint8Array> {
  const browser = await puppeteer.launch({ ...browserAt, args: ARGS });
  try {
    const page = await browser.newPage();
    await page.setJavaScriptEnabled(false);
    await page.setOfflineMode(true);
    await page.goto(pathToFileURL(file).href, { timeout: LIMIT_MS });
    return await page.pdf({ preferCSSPageSize: true, printBackground: true, tagged: true, timeout: LIMIT_MS, outline: false });
  } finally {
    await browser.close();
  }
}
