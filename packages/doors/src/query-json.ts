import type { Json, QueryJson } from '@kindred-baton/core/doors/answer';
import { query } from 'json-p3';

/** Finds by a JSONPath of RFC 9535; undefined when it is none. */
export const queryJson: QueryJson = (body, path) => {
  try {
    return query(path, body as never).values() as readonly Json[];
  } catch {
    return undefined;
  }
};
