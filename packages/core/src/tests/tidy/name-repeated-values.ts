import { toNameKey } from '../../values/field.ts';
import { findTemplateNames, parseTemplate } from '../../values/template.ts';
import type { Step } from '../step.ts';
import type { TidyRule } from './proposal.ts';

const MIN_LENGTH = 3;
const PLAIN_WORDS = /^(?:yes|no|true|false|on|off|today|not shown|disabled|enabled|open|new|[a-z ]{1,3})$/i;

/** A value that occurs again, in another step, is an input of the test: named after the first field that it goes into. */
export const nameRepeatedValues: TidyRule = {
  rule: 'inputs',
  propose: (steps) => {
    const places = new Map<string, number[]>();
    steps.forEach(({ value }, at) => {
      if (value === undefined || value.includes('{') || value.trim().length < MIN_LENGTH || PLAIN_WORDS.test(value)) return;
      places.set(value, [...(places.get(value) ?? []), at]);
    });
    // A name that is in use already, for whatever value, is another value's.
    const taken = new Set(steps.flatMap(listNames));
    return [...places].flatMap(([value, found]) => {
      const giver = found.map((at) => steps[at]).find((step) => step?.do === 'fill' || step?.do === 'pick');
      if (found.length < 2 || !giver) return [];
      const name = toFreeName(giver.target.replace(/[{}]/g, '').trim(), taken);
      return [
        {
          key: value,
          reason: `“${value}” occurs ${found.length} times; as the input ${name} it is said once, in a data row.`,
          replacements: found.flatMap((at) => {
            const step = steps[at];
            return step ? [{ at, before: [step], after: [{ ...step, value: `{${name}}` } satisfies Step] }] : [];
          }),
          inputs: { [name]: value },
        },
      ];
    });
  },
};

function listNames({ keepAs, ...step }: Step): string[] {
  const texts = [step.value, step.expect].flatMap((text) => text ?? []);
  return [...(keepAs === undefined ? [] : [keepAs]), ...texts.flatMap(findTemplateNames)].map(toNameKey);
}

/** “New address” or “Today” in braces would be a fresh value or a date; as a name it gets a word before it. */
function toFreeName(field: string, taken: Set<string>): string {
  const name = parseTemplate(`{${field}}`)[0]?.kind === 'name' ? field : `Value of ${field === '' ? 'it' : field}`;
  let free = name;
  for (let number = 2; taken.has(toNameKey(free)); number += 1) free = `${name} ${number}`;
  taken.add(toNameKey(free));
  return free;
}
