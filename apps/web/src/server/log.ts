import pino from 'pino';
import { getConfig } from './config.ts';

let log: pino.Logger | undefined;

/** What is noted of an error: its words, where it arose and what caused it. Nothing else that hangs on it, as a whole connection would. */
export function toLogged(error: unknown): unknown {
  if (!(error instanceof Error)) return error;
  const { name, message, stack, cause } = error;
  const code = 'code' in error ? { code: error.code } : {};
  return { name, message, ...code, stack, ...(cause === undefined ? {} : { cause: toLogged(cause) }) };
}

export function getLog(): pino.Logger {
  log ??= pino({ level: getConfig().LOG_LEVEL, base: null, serializers: { error: toLogged } });
  return log;
}
