import { describe, expect, it } from 'vitest';
import { toLines } from './to-lines.ts';

describe('rows for a clipboard', () => {
  it('are lines with tabs, headings first, as many cells in each', () => {
    const lines = toLines('{"turn":"Price","minutes":12,"due":null}\n{"turn":"Pay\\tnow\\nor later","minutes":0,"due":"2026-11-30"}\n');
    expect(lines).toBe('turn\tminutes\tdue\r\nPrice\t12\t\r\nPay now or later\t0\t2026-11-30');
  });

  it('hold no formula, and leave numbers as they are', () => {
    const [, row] = toLines('{"a":"=1+1","b":"-5","c":"@x","d":-5,"e":"-5 %"}').split('\r\n');
    expect(row).toBe("'=1+1\t-5\t'@x\t-5\t'-5 %");
  });

  it('of nothing are nothing', () => expect(toLines('')).toBe(''));
});
