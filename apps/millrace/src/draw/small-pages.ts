import { html } from 'hono/html';
import type { Environment } from '../data/environments.ts';
import type { Row } from '../data/kinds.ts';
import { printDay } from '../data/days.ts';
import { APPLICATIONS } from '../kit/screen.ts';
import { toSlug } from '../screens/all-screens.ts';
import { passwordOf, USERS } from '../users.ts';
import type { Markup } from './page.ts';
import { writePage } from './page.ts';

/** The way in: the environments with their applications. */
export function writeHome(
  environments: readonly Environment[],
  title = 'Millrace',
  sentence = 'A practice suite. Nothing in it is real.',
): Markup {
  return writePage({
    title,
    body: html`<header><strong>${title}</strong></header>
      <main>
        <p>${sentence}</p>
        ${environments.map(
          ({ name, release }) =>
            html`<h2>${name}, release ${release}</h2>
              <p>${APPLICATIONS.map((application) => html`<a href="/${name}/${toSlug(application)}">Millrace ${application}</a> `)}</p>`,
        )}
        ${environments.length > 0 ? html`<p><a href="/deployments">Deployments</a></p>` : ''}
      </main>`,
  });
}

export function writeSignIn(environment: string, to: string, refusal: string): Markup {
  return writePage({
    title: 'Sign in – Millrace',
    body: html`<header><strong>Millrace</strong><span>${environment}</span></header>
      <main>
        <h1>Sign in</h1>
        ${refusal === '' ? '' : html`<div class="said refused">${refusal}</div>`}
        <form method="post" action="/${environment}/sign-in">
          <input type="hidden" name="to" value="${to}" />
          <table class="form">
            <tr>
              <td class="label"><label for="user">User</label></td>
              <td><input id="user" name="user" autocomplete="username" /></td>
            </tr>
            <tr>
              <td class="label"><label for="password">Password</label></td>
              <td><input id="password" name="password" type="password" autocomplete="current-password" /></td>
            </tr>
          </table>
          <p><input type="submit" value="Sign in" /></p>
        </form>
        <p>
          For practice: ${USERS.map(({ code, name }) => `${code} (${name})`).join(', ')}; each with the password ${passwordOf(environment)}.
        </p>
      </main>`,
  });
}

/** What a crew sees of its job. */
export function writeTablet(job: Row<'job'>, permit: string): Markup {
  return writePage({
    title: 'Tablet',
    body: html`<main>
      <h2>Crew ${job.crew}</h2>
      <table class="form">
        <tr>
          <td class="label">Job on the tablet</td>
          <td>${job.number}</td>
        </tr>
        <tr>
          <td class="label">Where</td>
          <td>${job.place}</td>
        </tr>
        <tr>
          <td class="label">When</td>
          <td>${printDay(job.planned_for)}</td>
        </tr>
        <tr>
          <td class="label">Permit for the job</td>
          <td>${permit}</td>
        </tr>
      </table>
    </main>`,
  });
}

export const writeStop = (title: string, sentence: string): Markup => writePage({ title, body: writeHome([], title, sentence) });
