import type { PersonId } from '../../ids.ts';
import type { StepOutcome } from '../../outcomes.ts';
import type { Step } from '../../tests/step.ts';
import { checkValue } from '../../values/check-value.ts';
import type { Field } from '../../values/field.ts';
import { toNameKey } from '../../values/field.ts';
import type { Refusal } from './event.ts';

/** One step of an attempt under way; of a long test only the step that is asked for. */
export interface StepSheet {
  readonly personId: PersonId;
  readonly isFinished: boolean;
  readonly steps: number;
  readonly step: Step | null;
  readonly gives: readonly Field[];
  /** The id of what was recorded last at this step. */
  readonly entryId: string | null;
  /** When that was seen. */
  readonly entryAtMs: number | null;
}

/** What is recorded at a step. Its id is minted by the browser: the same entry sent twice is kept once, a later one replaces it. */
export interface StepEntry {
  readonly id: string;
  readonly outcome: StepOutcome | null;
  readonly atMs: number;
  readonly kept?: string | undefined;
}

export type StepDecision =
  | { readonly ok: false; readonly refusal: Refusal; readonly field?: 'kept' }
  /** It is there already. */
  | { readonly ok: true; readonly isNew: false }
  /** `kept`: what the attempt carries from now on under a name; null takes it away; undefined: the step keeps nothing. */
  | { readonly ok: true; readonly isNew: true; readonly kept: { readonly name: string; readonly value: string | null } | undefined };

export const LATER_IS_RECORDED: Refusal = {
  code: 'conflict',
  message: 'Something later is recorded at this step already, perhaps in another window. Look at it, and say it anew if it is wrong.',
};

export function decideStep(sheet: StepSheet, by: PersonId, stepIndex: number, entry: StepEntry): StepDecision {
  const refuse = (code: Refusal['code'], message: string): StepDecision => ({ ok: false, refusal: { code, message } });
  if (sheet.personId !== by) return refuse('forbidden', 'This attempt is somebody else’s.');
  if (!sheet.step) return refuse('invalid', `This test has ${sheet.steps} steps; there is no step ${stepIndex + 1}.`);
  if (sheet.entryId === entry.id) return { ok: true, isNew: false };
  if (sheet.isFinished) return refuse('conflict', 'This attempt is finished; begin another to change what was seen.');
  if (sheet.entryAtMs !== null && entry.atMs < sheet.entryAtMs) return { ok: false, refusal: LATER_IS_RECORDED };
  const name = sheet.step.keepAs;
  return name === undefined ? { ok: true, isNew: true, kept: undefined } : keep(sheet.gives, name, entry);
}

function keep(gives: readonly Field[], name: string, entry: StepEntry): StepDecision {
  const field = gives.find((candidate) => toNameKey(candidate.name) === toNameKey(name)) ?? { name, type: 'text' as const };
  const typed = entry.kept?.trim() ?? '';
  if (entry.outcome !== 'passed' && typed === '') return { ok: true, isNew: true, kept: { name: field.name, value: null } };
  const check = checkValue(field, typed);
  if (!check.ok) return { ok: false, refusal: { code: 'invalid', message: check.message }, field: 'kept' };
  return { ok: true, isNew: true, kept: { name: field.name, value: check.value } };
}
