import { html } from 'hono/html';
import type { Environment } from '../data/environments.ts';
import type { ApplicationName } from '../kit/screen.ts';
import { APPLICATIONS } from '../kit/screen.ts';
import { listScreens, toSlug } from '../screens/all-screens.ts';
import type { User } from '../users.ts';

export type Markup = ReturnType<typeof html>;

const STYLE = html`<style>
  body {
    margin: 0;
    font:
      14px/1.4 Arial,
      Helvetica,
      sans-serif;
    color: #1d2733;
    background: #eef1f5;
  }
  header {
    background: #33507a;
    color: #fff;
    padding: 8px 16px;
    display: flex;
    gap: 16px;
    align-items: baseline;
  }
  header strong {
    font-size: 17px;
  }
  header .right {
    margin-left: auto;
  }
  header a {
    color: #fff;
  }
  nav {
    background: #dce3ee;
    padding: 6px 16px;
    display: flex;
    flex-wrap: wrap;
    gap: 4px 16px;
  }
  nav a {
    color: #22395c;
  }
  nav a[aria-current] {
    font-weight: bold;
  }
  main {
    padding: 12px 16px 40px;
    max-width: 1100px;
  }
  h1 {
    font-size: 20px;
    margin: 4px 0 12px;
  }
  h2 {
    font-size: 15px;
    margin: 16px 0 6px;
  }
  table.form td {
    padding: 3px 8px 3px 0;
    vertical-align: top;
  }
  table.form td.label {
    width: 170px;
    color: #44546a;
  }
  table.list {
    border-collapse: collapse;
    background: #fff;
  }
  table.list th,
  table.list td {
    border: 1px solid #c6cfdb;
    padding: 3px 8px;
    text-align: left;
  }
  table.list input {
    width: 80px;
  }
  input,
  select {
    font: inherit;
    padding: 2px 4px;
    min-width: 180px;
  }
  input[type='submit'],
  button {
    min-width: 0;
    padding: 4px 10px;
    margin: 0 6px 6px 0;
  }
  input[type='radio'],
  input[type='checkbox'] {
    min-width: 0;
  }
  .said {
    border: 1px solid #4d7c4d;
    background: #e6f2e6;
    padding: 6px 10px;
    margin-bottom: 10px;
    max-width: 700px;
  }
  .refused {
    border-color: #a4442e;
    background: #fbe9e4;
  }
  .dialog {
    position: fixed;
    inset: 20% 25% auto;
    background: #fff;
    border: 2px solid #33507a;
    padding: 16px;
    box-shadow: 0 0 0 100vmax #0006;
  }
  iframe {
    border: 2px solid #33507a;
    background: #fff;
    width: 420px;
    height: 180px;
  }
</style>`;

interface Whole {
  readonly title: string;
  readonly head?: Markup | '';
  readonly body: Markup;
}

export const writePage = ({ title, head = '', body }: Whole): Markup =>
  html`<!doctype html>
    <html lang="en">
      <head>
        <meta charset="utf-8" />
        <meta name="viewport" content="width=device-width" />
        <title>${title}</title>
        <link rel="icon" href="data:," />
        ${STYLE}${head}
      </head>
      <body>
        ${body}
      </body>
    </html>`;

interface Framed {
  readonly environment: Environment;
  readonly user: User;
  readonly application: ApplicationName;
  readonly screen: string;
}

/** Head and menu around a screen. */
export function writeFrame({ environment, user, application, screen }: Framed, inner: Markup): Markup {
  const base = `/${environment.name}`;
  const open = APPLICATIONS.filter((name) => user.applications.includes(name));
  return html`<header>
      <strong>Millrace ${application}</strong><span>${environment.name}, release ${environment.release}</span>
      ${open.filter((name) => name !== application).map((name) => html`<a href="${base}/${toSlug(name)}">Millrace ${name}</a>`)}
      <span class="right">${user.name} ${user.code} <a href="${base}/sign-out">Sign out</a></span>
    </header>
    <nav aria-label="Screens">
      ${listScreens(application).map(
        ({ name }) =>
          html`<a href="${base}/${toSlug(application)}/${toSlug(name)}" ${name === screen ? html`aria-current="page"` : ''}>${name}</a>`,
      )}
    </nav>
    <main>${inner}</main>`;
}
