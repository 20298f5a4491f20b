import pino from 'pino';
import { getConfig } from './config.ts';

let log: pino.Logger | undefined;

export function getLog(): pino.Logger {
  log ??= pino({ level: getConfig().LOG_LEVEL, base: null });
  return log;
}
