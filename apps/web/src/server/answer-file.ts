export const MEDIA_TYPES = {
  xlsx: 'application/vnd.openxmlformats-officedocument.spreadsheetml.sheet',
  csv: 'text/csv; charset=utf-8',
  json: 'application/json; charset=utf-8',
  jsonl: 'application/jsonl; charset=utf-8',
  bpmn: 'application/xml; charset=utf-8',
  reqif: 'application/xml; charset=utf-8',
  feature: 'text/plain; charset=utf-8',
  md: 'text/markdown; charset=utf-8',
  mjs: 'text/javascript; charset=utf-8',
  html: 'text/html; charset=utf-8',
  pdf: 'application/pdf',
  zip: 'application/zip',
} as const;

/** A file to keep; its name in plain letters and, for browsers that know it, as it is (RFC 6266). */
export function answerFile(
  content: Uint8Array | ReadableStream<Uint8Array>,
  { name, mediaType }: { readonly name: string; readonly mediaType: string },
): Response {
  const plain = name.replace(/[^A-Za-z0-9._-]+/g, '-');
  return new Response(content instanceof Uint8Array ? new Uint8Array(content) : content, {
    headers: {
      'content-type': mediaType,
      'content-disposition': `attachment; filename="${plain}"; filename*=UTF-8''${encodeURIComponent(name)}`,
      'cache-control': 'no-store',
      'x-content-type-options': 'nosniff',
    },
  });
}
