import { assertNever } from '../assert-never.ts';
import type { Finding, Target, Want } from './find-element.ts';

const KINDS: Readonly<Record<Want, string>> = {
  place: 'way to',
  field: 'field',
  choice: 'list',
  press: 'button or link',
  shown: 'thing',
};

/** Why a thing was not found, as a sentence for whoever reads the attempt; `` where it was. */
export function describeFinding(finding: Finding, { want, name, within }: Target): string {
  const where = within === undefined ? 'on this screen' : `in “${within}”`;
  switch (finding.kind) {
    case 'found':
      return '';
    case 'none': {
      const near = finding.nearest.map((words) => `“${words}”`).join(', ');
      return `There is no ${KINDS[want]} “${name}” ${where}${near === '' ? '.' : `; the nearest is ${near}.`}`;
    }
    case 'several':
      return `“${name}” is ${where} ${finding.elements.length} times; the step should say what it stands in or beside.`;
    case 'hidden':
      return `“${name}” is ${where}, but it cannot be seen.`;
    case 'fixed':
      return `“${name}” is ${where}, but it takes no change.`;
    case 'no place':
      return `Nothing called “${finding.place}” is on this screen, so “${name}” was not looked for there.`;
    default:
      return assertNever(finding);
  }
}
