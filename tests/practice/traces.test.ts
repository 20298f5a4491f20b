import { createServer } from 'node:http';
import type { AddressInfo } from 'node:net';
import { openRecords } from '@kindred-baton/millrace/data/records';
import pg from 'pg';
import { afterAll, beforeAll, describe, expect, it, vi } from 'vitest';
import { openMillrace } from '@kindred-baton/millrace/open-millrace';
import type { Millrace } from '@kindred-baton/millrace/open-millrace';
import { createBareDatabase } from '../support/test-store.ts';

interface Span {
  readonly traceId: string;
  readonly spanId: string;
  readonly parentSpanId?: string;
  readonly name: string;
  readonly attributes: readonly { readonly key: string; readonly value: { readonly stringValue?: string } }[];
}

/** OTLP 1.x over HTTP as JSON (opentelemetry-proto, trace/v1), trace context by W3C Trace Context level 1. */
describe('what a request of the practice application touches', { timeout: 60_000 }, () => {
  const got: Span[] = [];
  const types = new Set<string>();
  const receiver = createServer((request, response) => {
    types.add(`${request.method} ${request.url} ${request.headers['content-type']}`);
    let body = '';
    request.on('data', (piece) => (body += String(piece)));
    request.on('end', () => {
      const { resourceSpans } = JSON.parse(body) as { resourceSpans: { scopeSpans: { spans: Span[] }[] }[] };
      got.push(...resourceSpans.flatMap(({ scopeSpans }) => scopeSpans.flatMap(({ spans }) => spans)));
      response.end('{}');
    });
  });
  let bare: Awaited<ReturnType<typeof createBareDatabase>>;
  let millrace: Millrace;
  let cookie = '';
  beforeAll(async () => {
    await new Promise<void>((resolve) => receiver.listen(0, '127.0.0.1', resolve));
    bare = await createBareDatabase();
    millrace = await openMillrace({
      databaseUrl: bare.url,
      tracesTo: `http://127.0.0.1:${(receiver.address() as AddressInfo).port}/v1/traces`,
    });
    const signedIn = await fetch(`${at()}/sign-in`, {
      ...{ method: 'POST', redirect: 'manual', headers: { origin: new URL(at()).origin } },
      body: new URLSearchParams({ user: 'BILL01', password: 'practice-rehearsal' }),
    });
    cookie = signedIn.headers.get('set-cookie')?.split(';')[0] ?? '';
  }, 60_000);
  afterAll(async () => {
    receiver.closeAllConnections();
    receiver.close();
    await millrace.close();
    await bare.drop();
  });

  const at = () => `http://127.0.0.1:${millrace.port}/rehearsal`;
  const work = (event: string, values: object, headers: Record<string, string> = {}, record = '') =>
    fetch(`${at()}/billing/quotes`, {
      method: 'POST',
      headers: { 'content-type': 'application/json', cookie, ...headers },
      body: JSON.stringify({ event, values, record, mode: event === '' ? '' : 'new' }),
    });
  const TRACE = '4bf92f3577b34da6a3ce929d0e0e4736';
  const PARENT = '00f067aa0ba902b7';
  const asked = (flags: string) => ({ traceparent: `00-${TRACE}-${PARENT}-${flags}` });
  const read = (span: Span, key: string) => span.attributes.find((each) => each.key === key)?.value.stringValue;
  const all = (key: string) => new Set(got.flatMap((span) => read(span, key) ?? []));

  it('is told only when it asks', async () => {
    for (const headers of [{}, asked('00'), { traceparent: 'nonsense' }, { traceparent: `00-${'0'.repeat(32)}-${PARENT}-01` }])
      expect((await work('', {}, headers)).status).toBe(200);
    await new Promise((resolve) => setTimeout(resolve, 700));
    expect(got).toEqual([]);
  });

  it('is told under the trace and the span that asked: screen, program units, rules, tables', async () => {
    const answer = await work('press:Save quote', { 'Survey number': 'SV-10001', 'Customer band': 'B' }, asked('01'));
    expect(answer.status).toBe(200);
    await vi.waitFor(() => expect(got.some(({ parentSpanId }) => parentSpanId === PARENT)).toBe(true), 5_000);
    expect(new Set(got.map(({ traceId }) => traceId))).toEqual(new Set([TRACE]));
    const root = got.find(({ parentSpanId }) => parentSpanId === PARENT)!;
    expect(root.name).toBe('POST /:environment/:application/:screen');
    expect([read(root, 'http.route'), read(root, 'app.screen.id'), read(root, 'url.path')]).toEqual([
      '/:environment/:application/:screen',
      'Billing/Quotes',
      '/rehearsal/billing/quotes',
    ]);
    expect(all('code.function.name')).toEqual(new Set(['billing.quotes.press.Save quote', 'billing.quotes.draw']));
    expect(all('db.collection.name')).toContain('surveys');
    expect(all('db.namespace')).toEqual(new Set(['rehearsal']));
    const ids = new Set(got.map(({ spanId }) => spanId));
    for (const span of got) if (span !== root) expect(ids.has(span.parentSpanId ?? '')).toBe(true);
    expect([...types]).toEqual(['POST /v1/traces application/json']);
  });

  it('is told with the rule that worked it out', async () => {
    got.length = 0;
    const pool = new pg.Pool({ connectionString: bare.url });
    await openRecords(pool, 'rehearsal').create('job', { hours: '2' }, 'JB-1');
    await pool.end();
    const body = JSON.stringify({ event: 'press:Work out', values: {}, record: 'JB-1', mode: '' });
    const headers = { 'content-type': 'application/json', cookie, ...asked('01') };
    expect((await fetch(`${at()}/billing/damage`, { method: 'POST', headers, body })).status).toBe(200);
    await vi.waitFor(() => expect(all('code.function.name')).toContain('charges.workOutDamage'), 5_000);
    const [rule, press] = ['charges.workOutDamage', 'billing.damage.press.Work out'].map((name) => got.find((span) => span.name === name));
    expect(rule?.parentSpanId).toBe(press?.spanId);
  });

  it('is told of its interface too', async () => {
    got.length = 0;
    const headers = { authorization: 'Bearer practice-rehearsal', ...asked('01') };
    expect((await fetch(`${at()}/customer/api/quotes`, { headers })).status).toBe(200);
    await vi.waitFor(() => expect(got.some(({ parentSpanId }) => parentSpanId === PARENT)).toBe(true), 5_000);
    expect(all('http.route')).toEqual(new Set(['/:environment/:application/api/:table']));
    expect(all('db.collection.name')).toEqual(new Set(['quotes']));
  });

  it('keeps nobody waiting where its receiver is away', async () => {
    receiver.closeAllConnections();
    await new Promise((resolve) => receiver.close(resolve));
    const start = performance.now();
    for (let times = 0; times < 5; times += 1) expect((await work('', {}, asked('01'))).status).toBe(200);
    expect(performance.now() - start).toBeLessThan(5_000);
  });
});
