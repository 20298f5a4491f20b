import { existsSync, mkdtempSync, rmSync } from 'node:fs';
import { tmpdir } from 'node:os';
import path from 'node:path';
import { AppError } from '@kindred-baton/contracts/errors';
import puppeteer from 'puppeteer-core';

const BROWSERS = ['/usr/bin/chromium', '/usr/bin/chromium-browser'];
const LIMIT_MS = 120_000;
const ARGS = [
  ...['--no-sandbox', '--disable-quic', '--no-first-run', '--disable-background-networking', '--disable-component-update'],
  ...['--disable-sync', '--disable-dev-shm-usage', '--no-default-browser-check', '--disable-extensions'],
];

/** A document as PDF, printed by Chromium; it may fetch nothing. */
export async function printPdf(html: string): Promise<Uint8Array> {
  const executablePath = [process.env['CHROMIUM_PATH'], ...BROWSERS].find((file) => file !== undefined && existsSync(file));
  if (!executablePath)
    throw new AppError(
      'invalid',
      'PDF needs Chromium, which this server does not have. Choose the printable document and print it, or install chromium.',
    );
  const userDataDir = mkdtempSync(path.join(tmpdir(), 'kindred-baton-pdf-'));
  const browser = await puppeteer.launch({ executablePath, userDataDir, args: ARGS });
  try {
    const page = await browser.newPage();
    await page.setJavaScriptEnabled(false);
    await page.setOfflineMode(true);
    await page.setContent(html, { timeout: LIMIT_MS });
    return await page.pdf({ preferCSSPageSize: true, printBackground: true, tagged: true, timeout: LIMIT_MS, outline: false });
  } finally {
    await browser.close();
    rmSync(userDataDir, { recursive: true, force: true });
  }
}
