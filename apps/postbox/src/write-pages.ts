export interface KeptMail {
  readonly number: number;
  readonly to: readonly string[];
  readonly from: string;
  readonly subject: string;
  readonly text: string;
  readonly at: Date;
}

/** HTML: made by the tag `html`, which escapes every text that is put in. */
class Html {
  readonly #text: string;
  constructor(text: string) {
    this.#text = text;
  }
  write(): string {
    return this.#text;
  }
}

type Inserted = string | number | Html | readonly Html[];

const ENTITIES: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };

const insert = (value: Inserted): string => {
  if (value instanceof Html) return value.write();
  if (typeof value === 'object') return value.map(insert).join('');
  return String(value).replace(/[&<>"]/g, (character) => ENTITIES[character] ?? character);
};

const html = (parts: TemplateStringsArray, ...values: readonly Inserted[]): Html =>
  new Html(parts.reduce((text, part, index) => text + insert(values[index - 1] ?? '') + part));

/** Addresses in a text become links. */
const link = (text: string): Html[] =>
  text.split(/(https?:\/\/[^\s<]+)/).map((part, index) => (index % 2 === 1 ? html`<a href="${part}">${part}</a>` : html`${part}`));

const STYLE = `body { font: 15px/1.45 "Atkinson Hyperlegible Next", Arial, sans-serif; background: #f4f1e9; color: #17282f; margin: 0 auto; max-width: 820px; padding: 28px 20px }
h1 { font-size: 22px; margin: 0 0 4px } p { margin: 0 0 14px } .soft { color: #566670 } table { width: 100%; border-collapse: collapse; background: #fffdf9; border: 1px solid #dcd5c6 }
td, th { padding: 8px 12px; border-bottom: 1px solid #eae5da; text-align: left; vertical-align: top } th { color: #566670; font-size: 13px } a { color: inherit } pre { font: inherit; white-space: pre-wrap; background: #fffdf9; border: 1px solid #dcd5c6; padding: 18px; overflow-wrap: anywhere }`;

const toPage = (title: string, body: Html, refresh = false): string =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        ${refresh ? html`<meta http-equiv="refresh" content="10" />` : ''}
        <title>${title}</title>
        <style>
          ${new Html(STYLE)}
        </style>
      </head>
      <body>
        ${body}
      </body>
    </html>`.write();

export function writeList(mails: readonly KeptMail[]): string {
  const rows = mails.map(
    ({ number, to, subject, at }) =>
      html`<tr>
        <td>${to.join(', ')}</td>
        <td><a href="/${number}">${subject}</a></td>
        <td class="soft">${at.toLocaleString('en-GB')}</td>
      </tr>`,
  );
  const list =
    mails.length === 0
      ? html`<p>No letter has come yet.</p>`
      : html`<table>
          <tr>
            <th>To</th>
            <th>Subject</th>
            <th>Came</th>
          </tr>
          ${rows}
        </table>`;
  return toPage(
    'Post office',
    html`<h1>Post office</h1>
      <p class="soft">A stand-in: letters of Kindred Baton come here and go no further. ${mails.length} kept.</p>
      ${list}`,
    true,
  );
}

export function writeMail({ to, from, subject, text, at }: KeptMail): string {
  return toPage(
    subject,
    html`<p><a href="/">All letters</a></p>
      <h1>${subject}</h1>
      <p class="soft">to ${to.join(', ')}, from ${from}, ${at.toLocaleString('en-GB')}</p>
      <pre>${link(text)}</pre>`,
  );
}
