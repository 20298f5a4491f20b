import type { Hono } from 'hono';
import { html } from 'hono/html';
import type { Pool } from 'pg';
import type { Environment, EnvironmentChange } from './data/environments.ts';
import { changeEnvironment, findEnvironment, listEnvironments, setTakenOver } from './data/environments.ts';
import { layBase } from './data/lay-base.ts';
import { dropSchema } from './data/records.ts';
import type { Markup } from './draw/page.ts';
import { writePage } from './draw/page.ts';
import { FAULT_NAMES, FAULTS } from './faults.ts';
import { RELEASES } from './releases.ts';
import type { Sessions } from './sessions.ts';

const MOST_SLOW_MS = 60_000;

/** Release, faults, slowness and outage of each environment: a page for people, and an address that takes JSON for scripts. */
export function addDeployments(app: Hono, pool: Pool, sessions: Sessions): void {
  app.get('/deployments', async (c) => c.html(writeDeployments(await listEnvironments(pool))));
  app.get('/deployments/:environment', async (c) => {
    const environment = await findEnvironment(pool, c.req.param('environment'));
    return environment ? c.json({ ...environment, faults: [...environment.faults] }) : c.notFound();
  });
  app.post('/deployments/:environment', async (c) => {
    const environment = await findEnvironment(pool, c.req.param('environment'));
    if (!environment) return c.notFound();
    const isForm = !c.req.header('content-type')?.startsWith('application/json');
    const asked = isForm ? await readForm(await c.req.parseBody({ all: true })) : ((await c.req.json()) as Record<string, unknown>);
    const change = readChange(asked);
    if (typeof change === 'string') return c.json({ message: change }, 400);
    if (asked['dataAnew'] === true) {
      await dropSchema(pool, environment.name);
      await layBase(pool, environment.name);
      await setTakenOver(pool, environment.name, '');
    }
    await changeEnvironment(pool, environment, change);
    if (asked['endSessions'] === true || (change.release !== undefined && change.release !== environment.release))
      sessions.endAll(environment.name);
    return isForm ? c.redirect('/deployments') : c.json({ ok: true });
  });
}

function readForm(body: Record<string, unknown>): Record<string, unknown> {
  return {
    release: body['release'],
    faults: [body['faults'] ?? []].flat(),
    slowMs: Number(body['slowMs']),
    isDown: body['isDown'] === 'on',
    dataAnew: body['dataAnew'] === 'on',
    endSessions: body['endSessions'] === 'on',
  };
}

/** What is asked for, or a sentence that says what is wrong with it. */
function readChange({ release, faults, slowMs, isDown }: Record<string, unknown>): EnvironmentChange | string {
  const known = RELEASES.find((one) => one === release);
  if (release !== undefined && !known) return `There is no release ${String(release)}; there are ${RELEASES.join(' and ')}.`;
  const unknown = Array.isArray(faults) ? faults.find((fault) => !FAULT_NAMES.some((name) => name === fault)) : undefined;
  if (faults !== undefined && (!Array.isArray(faults) || unknown !== undefined))
    return `There is no fault ${String(unknown)}; there are ${FAULT_NAMES.join(', ')}.`;
  const slow = Number(slowMs ?? 0);
  if (!Number.isInteger(slow) || slow < 0 || slow > MOST_SLOW_MS) return `slowMs is a whole number from 0 to ${MOST_SLOW_MS}.`;
  return {
    ...(known ? { release: known } : {}),
    ...(Array.isArray(faults) ? { faults: FAULT_NAMES.filter((name) => faults.includes(name)) } : {}),
    ...(slowMs === undefined ? {} : { slowMs: slow }),
    ...(typeof isDown === 'boolean' ? { isDown } : {}),
  };
}

function writeDeployments(environments: readonly Environment[]): Markup {
  return writePage({
    title: 'Deployments – Millrace',
    body: html`<header><strong>Millrace</strong><span>Deployments</span></header>
      <main>
        ${environments.map(
          ({ name, release, faults, slowMs, isDown }) =>
            html`<form method="post" action="/deployments/${name}" aria-label="${name}">
              <h2>${name}</h2>
              <p>
                <label
                  >Release
                  <select name="release">
                    ${RELEASES.map((one) => html`<option ${one === release ? html`selected` : ''}>${one}</option>`)}
                  </select></label
                >
                <label
                  >Waits before each answer, ms <input name="slowMs" type="number" min="0" max="${MOST_SLOW_MS}" value="${slowMs}"
                /></label>
                <label><input type="checkbox" name="isDown" ${isDown ? html`checked` : ''} /> Out of service</label>
                <label><input type="checkbox" name="endSessions" /> End all sessions</label>
                <label><input type="checkbox" name="dataAnew" /> Lay the data anew</label>
              </p>
              ${FAULT_NAMES.map(
                (fault) =>
                  html`<div>
                    <label
                      ><input type="checkbox" name="faults" value="${fault}" ${faults.has(fault) ? html`checked` : ''} />
                      ${FAULTS[fault]}</label
                    >
                  </div>`,
              )}
              <p><input type="submit" value="Deploy to ${name}" /></p>
            </form>`,
        )}
      </main>`,
  });
}
