import { deriveInterface } from '../tests/interface.ts';
import { checkValue } from '../values/check-value.ts';
import type { Field } from '../values/field.ts';
import { toNameKey } from '../values/field.ts';
import type { ImportDocument, ImportSurroundings, ImportedTest } from './import-document.ts';
import type { ImportProblem } from '../tables/place.ts';

/** Types are given for tests of this file, for values that these really need or give. */
export function checkFields({ tests, fields }: ImportDocument, around: ImportSurroundings): ImportProblem[] {
  const names = new Map(tests.map((test) => [test.code, listNames(test)]));
  const there = new Set(around.tests.map(({ code }) => code));
  return fields.flatMap(({ place, test, field }) => {
    const known = names.get(test);
    if (!known) {
      const why = there.has(test) ? 'is in the library already and is not changed by an import' : 'is not in this file';
      return [{ ...place, column: 'Test', message: `Test ${test} ${why}.` }];
    }
    return known.has(toNameKey(field.name))
      ? []
      : [{ ...place, column: 'Value', message: `No step of test ${test} uses or keeps “${field.name}”.` }];
  });
}

function listNames(test: ImportedTest): Set<string> {
  const { needs, gives } = deriveInterface(test.steps.map(({ step }) => step));
  return new Set([...needs, ...gives].map(({ name }) => toNameKey(name)));
}

/** Data rows belong to scenarios of this file; each value must fit the type that the tests say. */
export function checkRows(document: ImportDocument): ImportProblem[] {
  const fieldOf = new Map(document.fields.map(({ field }) => [toNameKey(field.name), field]));
  const scenarios = new Set(document.scenarios.map(({ code }) => code));
  const seen = new Set<string>();
  return document.rows.flatMap(({ place, scenario, name, values }) => {
    const problems: ImportProblem[] = [];
    if (!scenarios.has(scenario)) problems.push({ ...place, column: 'Scenario', message: `Scenario ${scenario} is not in this file.` });
    const key = `${scenario}\u0000${toNameKey(name)}`;
    if (seen.has(key)) problems.push({ ...place, column: 'Row', message: `Scenario ${scenario} has a data row “${name}” already.` });
    seen.add(key);
    return [...problems, ...checkRowValues(values, fieldOf).map(({ column, message }) => ({ ...place, column, message }))];
  });
}

function checkRowValues(
  values: Readonly<Record<string, string>>,
  fieldOf: ReadonlyMap<string, Field>,
): { column: string; message: string }[] {
  return Object.entries(values).flatMap(([column, value]) => {
    const field = fieldOf.get(toNameKey(column));
    if (!field || value === '') return [];
    const check = checkValue(field, value);
    return check.ok ? [] : [{ column, message: check.message }];
  });
}
