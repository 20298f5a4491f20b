export interface KeptMail {
  readonly number: number;
  readonly to: readonly string[];
  readonly from: string;
  readonly subject: string;
  readonly text: string;
  readonly at: Date;
}

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
const escape = (text: string) => text.replace(/[&<>"]/g, (character) => ENTITIES[character] ?? character);
const link = (text: string) => text.replace(/https?:\/\/[^\s<]+/g, (address) => `<a href="${address}">${address}</a>`);

const STYLE = `body { font: 15px/1.45 "Atkinson Hyperlegible Next", Arial, sans-serif; background: #f4f1e9; color: #17282f; margin: 0 auto; max-width: 820px; padding: 28px 20px }
h1 { font-size: 22px; margin: 0 0 4px } p { margin: 0 0 14px } .soft { color: #566670 } table { width: 100%; border-collapse: collapse; background: #fffdf9; border: 1px solid #dcd5c6 }
td, th { padding: 8px 12px; border-bottom: 1px solid #eae5da; text-align: left; vertical-align: top } th { color: #566670; font-size: 13px } a { color: inherit } pre { font: inherit; white-space: pre-wrap; background: #fffdf9; border: 1px solid #dcd5c6; padding: 18px; overflow-wrap: anywhere }`;

const toPage = (title: string, body: string, refresh = false) =>
  `<!doctype html><html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">${refresh ? '<meta http-equiv="refresh" content="10">' : ''}<title>${escape(title)}</title><style>${STYLE}</style></head><body>${body}</body></html>`;

export function writeList(mails: readonly KeptMail[]): string {
  const rows = mails.map(
    ({ number, to, subject, at }) =>
      `<tr><td>${escape(to.join(', '))}</td><td><a href="/${number}">${escape(subject)}</a></td><td class="soft">${at.toLocaleString('en-GB')}</td></tr>`,
  );
  const list =
    mails.length === 0
      ? '<p>No letter has come yet.</p>'
      : `<table><tr><th>To</th><th>Subject</th><th>Came</th></tr>${rows.join('')}</table>`;
  return toPage(
    'Post office',
    `<h1>Post office</h1><p class="soft">A stand-in: letters of Kindred Baton come here and go no further. ${mails.length} kept.</p>${list}`,
    true,
  );
}

export function writeMail({ to, from, subject, text, at }: KeptMail): string {
  return toPage(
    subject,
    `<p><a href="/">All letters</a></p><h1>${escape(subject)}</h1><p class="soft">to ${escape(to.join(', '))}, from ${escape(from)}, ${at.toLocaleString('en-GB')}</p><pre>${link(escape(text))}</pre>`,
  );
}
