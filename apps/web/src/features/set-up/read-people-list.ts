import type { Role } from '@kindred-baton/core/programmes/roles';
import { ROLES } from '@kindred-baton/core/programmes/roles';

export interface ListedPerson {
  readonly name: string;
  readonly email: string;
  readonly roles: readonly Role[];
  readonly teamIds: readonly string[];
}

export interface PeopleReading {
  readonly people: readonly ListedPerson[];
  readonly problems: readonly string[];
}

const ADDRESS = /[^\s<>;,]+@[^\s<>;,]+\.[^\s<>;,]+/;

/**
 * Reads people from lines as they come out of a spreadsheet or an address book: “Ines Varga <ines@…>”, or name, address, role and team in
 * columns (tabs, semicolons or commas). A line of which not all is understood is held back. What no role or team is named for takes those given. Cost O(text).
 */
export function readPeopleList(
  text: string,
  teams: readonly { readonly id: string; readonly name: string }[],
  given: Pick<ListedPerson, 'roles' | 'teamIds'>,
): PeopleReading {
  const people: ListedPerson[] = [];
  const problems: string[] = [];
  for (const [index, line] of text.split(/\r?\n/).entries()) {
    if (line.trim() === '') continue;
    const email = ADDRESS.exec(line)?.[0];
    const cells = line
      .replace(email ?? '', '')
      .replace(/[<>"]/g, '')
      .split(/[\t;,]/)
      .map((cell) => cell.trim())
      .filter((cell) => cell !== '');
    const roles = cells.flatMap((cell) => ROLES.filter((role) => role === cell.toLowerCase()));
    const own = cells.flatMap((cell) => teams.filter((team) => team.name.toLowerCase() === cell.toLowerCase()));
    const rest = cells.filter(
      (cell) => !ROLES.some((role) => role === cell.toLowerCase()) && !own.some((team) => team.name.toLowerCase() === cell.toLowerCase()),
    );
    if (email === undefined) {
      // A heading is no person.
      if (index > 0 || !/name|mail/i.test(line)) problems.push(`Line ${index + 1} (${line.trim().slice(0, 40)}) has no mail address.`);
      continue;
    }
    if (rest.length > 1) {
      problems.push(`Line ${index + 1}: “${rest.slice(1).join(', ')}” is no role and no team here; ${rest[0]} is held back.`);
      continue;
    }
    people.push({
      name: rest[0] ?? toName(email),
      email: email.toLowerCase(),
      roles: roles.length > 0 ? roles : given.roles,
      teamIds: own.length > 0 ? own.map(({ id }) => id) : given.teamIds,
    });
  }
  return { people, problems };
}

function toName(email: string): string {
  return (email.split('@')[0] ?? '')
    .split(/[._-]+/)
    .map((word) => word.charAt(0).toUpperCase() + word.slice(1))
    .join(' ');
}
