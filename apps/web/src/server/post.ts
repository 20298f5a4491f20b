import type { MailToSend } from '@kindred-baton/store/mails/send-mails';
import { sendMails } from '@kindred-baton/store/mails/send-mails';
import { writeDigests } from '@kindred-baton/store/mails/write-digests';
import { writeNews } from '@kindred-baton/store/progress/write-news';
import { SITE } from '@kindred-baton/store/mails/write-mails';
import { tellHooks } from '@kindred-baton/store/defects/tell-hooks';
import nodemailer from 'nodemailer';
import { getConfig } from './config.ts';
import { getLog } from './log.ts';
import { getStore } from './store.ts';

const PAUSE_MS = 1_500;
const DIGEST_PAUSE_MS = 60_000;
const HOOK_LIMIT_MS = 10_000;
/** A mail server that is slow holds up letters, and nothing else. */
const MAIL_LIMITS = { connectionTimeout: 10_000, greetingTimeout: 10_000, socketTimeout: 20_000 } as const;

let isStarted = false;

/** Sends letters and tells web hooks, as long as the server runs. Without a mail server letters wait. */
export function startPost(): void {
  if (isStarted) return;
  isStarted = true;
  const { SMTP_URL, KINDRED_BATON_MAIL_FROM } = getConfig();
  const transport = SMTP_URL ? nodemailer.createTransport({ url: SMTP_URL, ...MAIL_LIMITS }, { from: KINDRED_BATON_MAIL_FROM }) : undefined;
  const send = async ({ to, toName, subject, text }: MailToSend) => {
    await transport?.sendMail({
      to: { name: toName, address: to },
      subject,
      text: text.replaceAll(SITE, getConfig().KINDRED_BATON_ADDRESS),
    });
  };
  if (transport) repeat(PAUSE_MS, () => sendMails(getStore(), send));
  repeat(PAUSE_MS, () => tellHooks(getStore(), postJson));
  repeat(DIGEST_PAUSE_MS, () => writeDigests(getStore()));
  repeat(DIGEST_PAUSE_MS, () => writeNews(getStore()));
}

async function postJson(address: string, body: string): Promise<void> {
  const response = await fetch(address, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body,
    signal: AbortSignal.timeout(HOOK_LIMIT_MS),
    redirect: 'error',
  });
  if (!response.ok) throw new Error(`it answered ${response.status}`);
}

/** Again and again, with a pause between; what goes wrong is noted, and it goes on. */
function repeat(pauseMs: number, work: () => Promise<unknown>): void {
  const run = () =>
    void work()
      .catch((error: unknown) => getLog().warn({ error: error instanceof Error ? error.message : error }, 'the post stumbled'))
      .finally(() => setTimeout(run, pauseMs).unref());
  setTimeout(run, pauseMs).unref();
}
