import type { Server } from 'node:http';
import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import PostalMime from 'postal-mime';
import { SMTPServer } from 'smtp-server';
import type { KeptMail } from './write-pages.ts';
import { writeList, writeMail } from './write-pages.ts';

const MOST_KEPT = 500;
const MOST_BYTES = 10 * 1024 * 1024;

export interface Postbox {
  readonly smtpPort: number;
  readonly pagePort: number;
  /** Newest first. */
  readonly mails: readonly KeptMail[];
  readonly close: () => Promise<void>;
}

/**
 * A stand-in for a post office: takes every letter over SMTP (RFC 5321) on this machine, delivers none, keeps the last 500 in memory, and
 * shows them on a page. Port 0 takes any that is free.
 */
export async function openPostbox({ smtpPort = 0, pagePort = 0 } = {}): Promise<Postbox> {
  const mails: KeptMail[] = [];
  let number = 0;
  const smtp = new SMTPServer({
    ...{
      authOptional: true,
      disabledCommands: ['STARTTLS'],
      size: MOST_BYTES,
      logger: false,
      banner: 'the stand-in post office of Kindred Baton',
    },
    onData: (stream, session, done) => {
      const pieces: Buffer[] = [];
      stream.on('data', (piece: Buffer) => pieces.push(piece));
      stream.on('end', () => {
        if (stream.sizeExceeded) return done(new Error('That letter is too large.'));
        PostalMime.parse(Buffer.concat(pieces)).then((letter) => {
          number += 1;
          const to = session.envelope.rcptTo.map(({ address }) => address);
          mails.unshift({
            number,
            to,
            from: letter.from?.address ?? '',
            subject: letter.subject ?? '',
            text: letter.text ?? '',
            at: new Date(),
          });
          mails.length = Math.min(mails.length, MOST_KEPT);
          done();
        }, done);
      });
    },
  });
  await new Promise<void>((resolve, reject) => {
    smtp.on('error', reject);
    smtp.listen(smtpPort, '127.0.0.1', resolve);
  });
  const pages = createServer((request, response) => {
    const path = new URL(request.url ?? '/', 'http://postbox').pathname;
    const mail = mails.find((kept) => `/${kept.number}` === path);
    const page = path === '/' ? writeList(mails) : mail ? writeMail(mail) : undefined;
    response.writeHead(page === undefined ? 404 : 200, {
      'content-type': 'text/html; charset=utf-8',
      'content-security-policy': "default-src 'none'; style-src 'unsafe-inline'",
      'cache-control': 'no-store',
    });
    response.end(page ?? 'There is no such letter.');
  });
  await listen(pages, pagePort);
  return {
    ...{ mails, smtpPort: (smtp.server.address() as AddressInfo).port, pagePort: (pages.address() as AddressInfo).port },
    close: async () => {
      await new Promise<void>((resolve) => smtp.close(resolve));
      await new Promise<void>((resolve) => pages.close(() => resolve()));
    },
  };
}

function listen(server: Server, port: number): Promise<void> {
  return new Promise((resolve, reject) => {
    server.once('error', reject);
    server.listen(port, '127.0.0.1', resolve);
  });
}
