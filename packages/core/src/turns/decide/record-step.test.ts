import { describe, expect, it } from 'vitest';
import { decideStep } from './record-step.ts';

describe('recording a step', () => {
  const sheet = {
    personId: 'una' as never,
    isFinished: false,
    steps: 2,
    step: { do: 'press' as const, target: 'Save' },
    gives: [],
    entryId: null,
    entryAtMs: null,
  };
  const keeping = {
    ...sheet,
    step: { do: 'keep' as const, target: 'Charge', keepAs: 'charge' },
    gives: [{ name: 'Charge', type: 'money' as const }],
  };
  const entry = { id: 'e1', outcome: 'passed' as const, atMs: 1_000 };
  it.each([
    ['somebody else’s', { ...sheet, personId: 'ivo' as never }, entry, 'forbidden'],
    ['no such step', { ...sheet, step: null }, entry, 'invalid'],
    ['finished', { ...sheet, isFinished: true }, entry, 'conflict'],
    ['older than what is recorded there', { ...sheet, entryId: 'e0', entryAtMs: 1_001 }, entry, 'conflict'],
    ['a value of another type', keeping, { ...entry, kept: 'much' }, 'invalid'],
    ['a passed step without its value', keeping, entry, 'invalid'],
  ])('is refused: %s', (_, given, recorded, code) => {
    const decision = decideStep(given, 'una' as never, 0, recorded);
    expect(decision.ok ? null : decision.refusal.code).toBe(code);
  });
  it('names the step as people count them', () => {
    const decision = decideStep({ ...sheet, step: null }, 'una' as never, 2, entry);
    expect(decision.ok ? '' : decision.refusal.message).toBe('This test has 2 steps; there is no step 3.');
  });
  it('of the same moment, the later to come is kept', () => {
    expect(decideStep({ ...sheet, entryId: 'e0', entryAtMs: 1_000 }, 'una' as never, 0, entry)).toMatchObject({ ok: true, isNew: true });
  });
  it('is kept once; a value goes under the name of the field, and goes away with the step', () => {
    expect(decideStep({ ...sheet, entryId: 'e1', isFinished: true }, 'una' as never, 0, entry)).toEqual({ ok: true, isNew: false });
    expect(decideStep(sheet, 'una' as never, 0, entry)).toEqual({ ok: true, isNew: true, kept: undefined });
    expect(decideStep(keeping, 'una' as never, 0, { ...entry, kept: ' 512.5 ' })).toEqual({
      ok: true,
      isNew: true,
      kept: { name: 'Charge', value: '512.5' },
    });
    expect(decideStep(keeping, 'una' as never, 0, { ...entry, outcome: 'failed', kept: ' ' } as never)).toEqual({
      ok: true,
      isNew: true,
      kept: { name: 'Charge', value: null },
    });
  });
});
