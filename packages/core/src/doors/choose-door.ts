import { foldWords } from '../screens/capture.ts';
import type { Step } from '../tests/step.ts';
import type { TemplateSource } from '../values/template.ts';
import { fillTemplate } from '../values/template.ts';
import type { DoorKind } from './door.ts';
import { guessDoorKind } from './read-question.ts';

/** The door that a step names; where it names none, the only one of its kind. Else a sentence that says which are set. */
export function chooseDoor<Door extends { readonly name: string; readonly kind: DoorKind }>(
  { within, target }: Pick<Step, 'within' | 'target'>,
  doors: readonly Door[],
  source: TemplateSource,
): Door | string {
  const known = doors.length === 0 ? 'None is set.' : `Set are ${doors.map(({ name }) => `“${name}”`).join(', ')}.`;
  if (within !== undefined) {
    const name = fillTemplate(within, source);
    return doors.find((door) => foldWords(door.name) === foldWords(name)) ?? `There is no door “${name}” in this environment. ${known}`;
  }
  const fitting = doors.filter(({ kind }) => kind === guessDoorKind(target));
  return fitting.length === 1 ? fitting[0]! : `The step does not say which door is asked. ${known}`;
}
