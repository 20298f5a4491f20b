import { createHash } from 'node:crypto';
import { AppError } from '@kindred-baton/contracts/errors';
import type { RowsQuery } from '@kindred-baton/contracts/extracts/extract';
import type { RowKind } from '@kindred-baton/core/extracts/row-kinds';
import { getRowKindLabel, listColumns } from '@kindred-baton/core/extracts/row-kinds';
import { readRowPage, streamRows } from '@kindred-baton/store/extracts/read-rows';
import { askInParts } from '@kindred-baton/store/operation';
import { answerFile, MEDIA_TYPES } from '../../answer-file.ts';
import { toAppError } from '../../answer-error.ts';
import { doAside } from '../../aside/do-aside.ts';
import type { Call } from '../../call.ts';
import { getLog } from '../../log.ts';
import { getRoom } from '../../room.ts';
import { getLongStore, MOST_LONG } from '../../store.ts';
import { findAskingReader } from '../../which-reader.ts';

type RowsCall = Call<{ kind: RowKind }, RowsQuery>;

/** A workbook is made in memory: more than so many rows come as CSV. */
const MOST_IN_WORKBOOK = 50_000;
/** So many long downloads of one person at once. */
const MOST_OF_ONE = 3;
const underWay = new Map<string, number>();

/** Rows as a page of JSON, as a file that comes as it is read, or as a workbook. */
export function answerRows(call: RowsCall): Promise<Response> {
  const { format } = call.input;
  if (format === 'json') return answerPage(call);
  return format === 'xlsx' ? answerWorkbook(call) : answerStream(call, format);
}

/** What it is about is said by its tag: asked again with it, what has not changed does not travel. */
async function answerPage(call: RowsCall): Promise<Response> {
  const { ask, params, input, request, url } = call;
  const { lines, next } = await ask(readRowPage, { kind: params.kind, query: input, after: input.after ?? null, limit: input.limit });
  const body = `{"rows":[${lines.join(',')}],"next":${JSON.stringify(next)}}`;
  const tag = `"${createHash('sha256').update(body).digest('base64url')}"`;
  const headers = new Headers({ etag: tag, 'cache-control': 'private, no-cache' });
  if (next !== null) headers.set('link', `<${toNextPath(url, next)}>; rel="next"`);
  const known = request.headers.get('if-none-match')?.split(/\s*,\s*/);
  if (known?.some((each) => each === tag || each === `W/${tag}` || each === '*')) return new Response(null, { status: 304, headers });
  headers.set('content-type', MEDIA_TYPES.json);
  return new Response(body, { headers });
}

/** The token stays out of what is passed on: whoever asks has it. */
function toNextPath(url: URL, next: string): string {
  const params = new URLSearchParams(url.searchParams);
  params.delete('token');
  params.set('after', next);
  return `${url.pathname}?${params}`;
}

const ENCODER = new TextEncoder();
/** As spreadsheets expect UTF-8. */
const BYTE_ORDER_MARK = '\ufeff';

/** What cannot be read at all is refused as anywhere; what breaks later is said in the file. */
async function answerStream(call: RowsCall, format: 'csv' | 'jsonl'): Promise<Response> {
  const { kind } = call.params;
  const [end, as] = format === 'csv' ? (['\r\n', 'csv'] as const) : (['\n', 'json'] as const);
  let begins =
    format === 'csv'
      ? `${BYTE_ORDER_MARK}${listColumns(kind)
          .map(({ name }) => name)
          .join(',')}${end}`
      : '';
  const letGo = takePlace(call.actor.personId);
  const parts = readParts(call, as);
  let next = await parts.next().catch((error: unknown) => {
    letGo();
    throw error;
  });
  const room = getRoom();
  const since = performance.now();
  const stop = () => {
    letGo();
    // It waits for what the database is doing, and nobody waits for it.
    parts.return().catch((error: unknown) => getLog().error({ error }, 'a download was not let go of'));
  };
  const stream = new ReadableStream<Uint8Array>(
    {
      async pull(controller) {
        try {
          const left = WHOLE_MS - (performance.now() - since);
          if (!(await room.wait(Math.min(LYING_MS, left))))
            throw new AppError('unavailable', 'The download took too long. Narrow it, or take it in pages.');
          const { done, value } = next;
          const text = begins + (value ?? []).map((line) => line + end).join('');
          if (text !== '') controller.enqueue(ENCODER.encode(text));
          begins = '';
          if (!done) return void (next = await parts.next());
          stop();
          controller.close();
        } catch (error) {
          stop();
          // It says so in the file, and the transfer ends as one that failed: what came is not taken for all.
          controller.enqueue(ENCODER.encode(`${begins}${toBreak(format, toAppError(error).message)}${end}`));
          controller.error(error);
        }
      },
      cancel: stop,
    },
    { highWaterMark: 0 },
  );
  return answerFile(stream, { name: `${getRowKindLabel(kind).toLowerCase()}.${format}`, mediaType: MEDIA_TYPES[format] });
}

/** How long a download may take, and how long whoever asked for it may leave it lying: it keeps a connection. */
const WHOLE_MS = 15 * 60_000;
const LYING_MS = 60_000;

const toBreak = (format: 'csv' | 'jsonl', why: string) =>
  format === 'csv' ? `"Broken off: ${why.replaceAll('"', '""')}"` : JSON.stringify({ brokenOff: why });

/** Part by part, each asked for when the one before is on its way. An address that is withdrawn meanwhile ends it. */
async function* readParts({ actor, params, input, request, url }: RowsCall, as: 'csv' | 'json'): AsyncGenerator<readonly string[], void> {
  for await (const lines of askInParts(getLongStore(), actor, streamRows, { kind: params.kind, query: input, as })) {
    await findAskingReader(request, url);
    yield lines;
  }
}

/** Answers how to give the place back; that is done once, however often it is said. */
function takePlace(person: string): () => void {
  const own = underWay.get(person) ?? 0;
  const all = [...underWay.values()].reduce((sum, each) => sum + each, 0);
  if (own >= MOST_OF_ONE || all >= MOST_LONG)
    throw new AppError(
      'too many',
      `${own >= MOST_OF_ONE ? own : all} downloads are under way already. Begin this one when another is through.`,
    );
  underWay.set(person, own + 1);
  let isGone = false;
  return () => {
    if (isGone) return;
    isGone = true;
    const left = (underWay.get(person) ?? 1) - 1;
    if (left > 0) underWay.set(person, left);
    else underWay.delete(person);
  };
}

async function answerWorkbook(call: RowsCall): Promise<Response> {
  const { kind } = call.params;
  const columns = listColumns(kind);
  const rows: (string | number)[][] = [];
  const letGo = takePlace(call.actor.personId);
  try {
    for await (const lines of readParts(call, 'json')) {
      if (rows.length + lines.length > MOST_IN_WORKBOOK)
        throw new AppError(
          'too large',
          `A workbook has at most ${MOST_IN_WORKBOOK.toLocaleString('en')} rows here. Narrow it, or take it as CSV.`,
        );
      for (const line of lines) {
        const row = JSON.parse(line) as Record<string, string | number | null>;
        rows.push(columns.map(({ name }) => row[name] ?? ''));
      }
    }
  } finally {
    letGo();
  }
  const sheet = getRowKindLabel(kind);
  const book = await doAside('write workbook', [{ sheet, headings: columns.map(({ name }) => name), rows }]);
  return answerFile(book, { name: `${sheet.toLowerCase()}.xlsx`, mediaType: MEDIA_TYPES.xlsx });
}
