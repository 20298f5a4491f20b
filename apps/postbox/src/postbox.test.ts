import { createTransport } from 'nodemailer';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Postbox } from './open-postbox.ts';
import { openPostbox } from './open-postbox.ts';

describe('the stand-in post office', () => {
  let postbox: Postbox;
  beforeAll(async () => {
    postbox = await openPostbox();
  });
  afterAll(() => postbox.close());

  it('takes a letter over SMTP and shows it, with no script in it alive', async () => {
    const transport = createTransport({ host: '127.0.0.1', port: postbox.smtpPort, secure: false, ignoreTLS: true });
    await transport.sendMail({
      from: 'baton@localhost',
      to: 'ines@x.example',
      subject: 'Größe <b>',
      text: 'Look: http://127.0.0.1/x\n<script>alert(1)</script>',
    });
    const list = await (await fetch(`http://127.0.0.1:${postbox.pagePort}/`)).text();
    expect(list).toContain('Größe &lt;b&gt;');
    const page = await fetch(`http://127.0.0.1:${postbox.pagePort}/${postbox.mails[0]?.number}`);
    const text = await page.text();
    expect(text).toContain('<a href="http://127.0.0.1/x">');
    expect(text).not.toContain('<script>');
    expect(page.headers.get('content-security-policy')).toContain("default-src 'none'");
  });

  it('says when there is no such letter', async () => expect((await fetch(`http://127.0.0.1:${postbox.pagePort}/999`)).status).toBe(404));
});
