import type { Attributes, Span } from '@opentelemetry/api';
import { context, propagation, SpanKind, SpanStatusCode, trace } from '@opentelemetry/api';
import { AsyncLocalStorageContextManager } from '@opentelemetry/context-async-hooks';
import { W3CTraceContextPropagator } from '@opentelemetry/core';
import { OTLPTraceExporter } from '@opentelemetry/exporter-trace-otlp-http';
import { resourceFromAttributes } from '@opentelemetry/resources';
import { AlwaysOffSampler, BasicTracerProvider, BatchSpanProcessor, ParentBasedSampler } from '@opentelemetry/sdk-trace-base';
import {
  ATTR_CODE_FUNCTION_NAME,
  ATTR_DB_COLLECTION_NAME,
  ATTR_DB_NAMESPACE,
  ATTR_DB_OPERATION_NAME,
  ATTR_DB_SYSTEM_NAME,
  ATTR_HTTP_REQUEST_METHOD,
  ATTR_HTTP_RESPONSE_STATUS_CODE,
  ATTR_HTTP_ROUTE,
  ATTR_SERVICE_NAME,
  ATTR_URL_PATH,
  DB_SYSTEM_NAME_VALUE_POSTGRESQL,
} from '@opentelemetry/semantic-conventions';
import type { MiddlewareHandler } from 'hono';
import { matchedRoutes } from 'hono/route';

const SCOPE = 'millrace';
/** A request that waits for nobody: what a receiver does not take in time is lost, the answer is not. */
const EXPORT_MS = 2_000;
const EVERY_MS = 200;

/**
 * What requests touch goes out as OpenTelemetry spans (OTLP over HTTP, JSON; names by the semantic conventions), only where the request asks for it: by the sampled flag
 * of its W3C `traceparent`. `tracesTo` is the receiver's whole address. Answers what ends it, with what still waits sent.
 */
export function sendSpans(tracesTo: string): () => Promise<void> {
  const processor = new BatchSpanProcessor(new OTLPTraceExporter({ url: tracesTo, timeoutMillis: EXPORT_MS }), {
    scheduledDelayMillis: EVERY_MS,
    exportTimeoutMillis: EXPORT_MS,
  });
  const provider = new BasicTracerProvider({
    resource: resourceFromAttributes({ [ATTR_SERVICE_NAME]: SCOPE }),
    sampler: new ParentBasedSampler({ root: new AlwaysOffSampler() }),
    spanProcessors: [processor],
  });
  context.setGlobalContextManager(new AsyncLocalStorageContextManager().enable());
  propagation.setGlobalPropagator(new W3CTraceContextPropagator());
  trace.setGlobalTracerProvider(provider);
  return async () => {
    await provider.shutdown().catch(() => undefined);
    trace.disable();
    propagation.disable();
    context.disable();
  };
}

/** Each request as a span of the trace that it belongs to. */
export const asRequest: MiddlewareHandler = async (c, next) => {
  const { traceparent } = c.req.header();
  if (traceparent === undefined) return next();
  const asked = propagation.extract(context.active(), { traceparent });
  await context.with(asked, () =>
    trace
      .getTracer(SCOPE)
      .startActiveSpan(
        c.req.method,
        { kind: SpanKind.SERVER, attributes: { [ATTR_HTTP_REQUEST_METHOD]: c.req.method, [ATTR_URL_PATH]: c.req.path } },
        async (span) => {
          try {
            await next();
          } finally {
            const route = matchedRoutes(c).find(({ path }) => !path.endsWith('*'))?.path ?? '*';
            span.updateName(`${c.req.method} ${route}`);
            span.setAttributes({ [ATTR_HTTP_ROUTE]: route, [ATTR_HTTP_RESPONSE_STATUS_CODE]: c.res.status });
            span.end();
          }
        },
      ),
  );
};

/** A screen that was shown or worked at. */
export const touchScreen = (application: string, name: string): void =>
  void trace.getActiveSpan()?.setAttributes({ 'app.screen.id': `${application}/${name}`, 'app.screen.name': name });

/** A program unit or a rule, by its full name (`billing.quotes.press.Save quote`, `charges.workOutDeposit`). */
export const asUnit = <Result>(name: string, work: () => Result): Result => within(name, { [ATTR_CODE_FUNCTION_NAME]: name }, work);

/** What is done with a table. */
export const atTable = <Result>(operation: string, schema: string, table: string, work: () => Result): Result =>
  within(
    `${operation} ${table}`,
    {
      [ATTR_DB_SYSTEM_NAME]: DB_SYSTEM_NAME_VALUE_POSTGRESQL,
      [ATTR_DB_NAMESPACE]: schema,
      [ATTR_DB_COLLECTION_NAME]: table,
      [ATTR_DB_OPERATION_NAME]: operation,
    },
    work,
  );

/** Costs nothing where nobody asked for a trace. */
function within<Result>(name: string, attributes: Attributes, work: () => Result): Result {
  if (!trace.getActiveSpan()?.isRecording()) return work();
  return trace.getTracer(SCOPE).startActiveSpan(name, { attributes }, (span) => {
    let result: Result;
    try {
      result = work();
    } catch (error) {
      fail(span);
      throw error;
    }
    if (result instanceof Promise)
      void result.then(
        () => span.end(),
        () => fail(span),
      );
    else span.end();
    return result;
  });
}

function fail(span: Span): void {
  span.setStatus({ code: SpanStatusCode.ERROR });
  span.end();
}
