import { expect, it } from 'vitest';
import { proposeCode } from './propose-code.ts';

it.each([
  ['NS', ['NS-1', 'NS-2'], 'NS-3'],
  ['NS-2', ['NS-2.1', 'NS-2.9'], 'NS-2.10'],
  ['NS', [], 'NS-1'],
  ['NS-2', [], 'NS-2.1'],
  [null, ['NS'], ''],
])('below %s beside %j the next code is “%s”', (parent, siblings, code) => expect(proposeCode(parent, siblings)).toBe(code));
