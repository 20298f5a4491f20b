import { describe, expect, it } from 'vitest';
import { readForm, readJson } from './read-body.ts';
import { readUpload } from './read-upload.ts';

const post = (body: BodyInit, headers: Record<string, string> = {}) =>
  new Request('http://localhost/', { method: 'POST', body, headers, duplex: 'half' } as RequestInit);

/** A body that comes in pieces and says how many of them were read. */
function flow(pieces: number, size: number) {
  const seen = { read: 0, isCancelled: false };
  const stream = new ReadableStream<Uint8Array>(
    {
      pull: (controller) => {
        seen.read += 1;
        if (seen.read > pieces) controller.close();
        else controller.enqueue(new Uint8Array(size).fill(32));
      },
      cancel: () => void (seen.isCancelled = true),
    },
    { highWaterMark: 0 },
  );
  return { seen, stream };
}

describe('a body', () => {
  it('is JSON, also with letters that are cut by the pieces; nothing at all is an empty object', async () => {
    expect(await readJson(post('{"name":"Zähler"}'), 1_000)).toEqual({ name: 'Zähler' });
    expect(await readJson(post(''), 1_000)).toEqual({});
    const bytes = new TextEncoder().encode('"ä"');
    const cut = new ReadableStream({
      start: (controller) => {
        controller.enqueue(bytes.slice(0, 2));
        controller.enqueue(bytes.slice(2));
        controller.close();
      },
    });
    expect(await readJson(post(cut), 1_000)).toBe('ä');
  });

  it('that is no JSON is told in a sentence', async () => {
    await expect(readJson(post('{"name":'), 1_000)).rejects.toMatchObject({ code: 'invalid', message: 'The request is not JSON.' });
  });

  it('may be as large as the bound, and not a byte larger', async () => {
    expect(await readJson(post(' '.repeat(998) + '{}'), 1_000)).toEqual({});
    await expect(readJson(post(' '.repeat(999) + '{}'), 1_000)).rejects.toMatchObject({ code: 'too large' });
  });

  it('without an end is not read to its end: it is cut off at the bound', async () => {
    const { stream, seen } = flow(Number.POSITIVE_INFINITY, 1_048_576);
    await expect(readJson(post(stream), 3 * 1_048_576)).rejects.toMatchObject({ message: 'At most 3 MB can be sent.' });
    expect(seen).toEqual({ read: 4, isCancelled: true });
  });

  it('of a form is read with its files; another kind is told', async () => {
    const form = new FormData();
    form.set('word', 'Quay');
    expect((await readForm(post(form), 10_000)).get('word')).toBe('Quay');
    await expect(readForm(post('a=b', { 'content-type': 'text/plain' }), 10_000)).rejects.toMatchObject({
      ...{ code: 'invalid', message: 'The request is not a form with a file.' },
    });
  });
});

describe('an upload', () => {
  const formOf = (entries: Readonly<Record<string, File | string>>) => {
    const form = new FormData();
    for (const [name, value] of Object.entries(entries)) form.set(name, value);
    return post(form);
  };
  const file = new File(['abc'], 'list.csv');

  it('is a file with its name, options, and a second file where there is one', async () => {
    const read = await readUpload(formOf({ file, options: '{"sheet":"One"}', more: new File(['d'], 'rows.csv') }));
    expect(read).toMatchObject({ name: 'list.csv', options: { sheet: 'One' }, more: { name: 'rows.csv' } });
    expect(new TextDecoder().decode(read.bytes)).toBe('abc');
    expect(await readUpload(formOf({ file }))).toMatchObject({ options: {}, more: undefined });
    expect(await readUpload(formOf({ file, options: '', more: 'no file' }))).toMatchObject({ options: {}, more: undefined });
  });

  it('without a file, or with options that are none, is told', async () => {
    await expect(readUpload(formOf({ file: 'just words' }))).rejects.toMatchObject({ message: 'There is no file in the request.' });
    await expect(readUpload(formOf({ file, options: '{' }))).rejects.toMatchObject({ message: 'The options of the import are not JSON.' });
  });
});
