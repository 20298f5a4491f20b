import { describe, expect, it } from 'vitest';
import { readPeopleList } from './read-people-list.ts';

const TEAMS = [{ id: 't1', name: 'Billing' }];
const GIVEN = { roles: ['tester' as const], teamIds: ['t0'] };

describe('a list of people', () => {
  it('is read from columns and from an address book', () => {
    const { people, problems } = readPeopleList(
      'Name\tMail\tRole\tTeam\nIna Roe\tina@x.example\tOwner\tBilling\n"Bo Ash" <Bo.Ash@x.example>\nno.name@x.example',
      TEAMS,
      GIVEN,
    );
    expect(problems).toEqual([]);
    expect(people).toEqual([
      { name: 'Ina Roe', email: 'ina@x.example', roles: ['owner'], teamIds: ['t1'] },
      { name: 'Bo Ash', email: 'bo.ash@x.example', roles: ['tester'], teamIds: ['t0'] },
      { name: 'No Name', email: 'no.name@x.example', roles: ['tester'], teamIds: ['t0'] },
    ]);
  });

  it('says which line has no address, and what is no role or team; such a line is held back', () => {
    const { people, problems } = readPeopleList('A Person, a@x.example, Boss\nSomebody\nIna Roe, ina@x.example', TEAMS, GIVEN);
    expect(people.map(({ name }) => name)).toEqual(['Ina Roe']);
    expect(problems).toEqual([
      'Line 1: “Boss” is no role and no team here; A Person is held back.',
      'Line 2 (Somebody) has no mail address.',
    ]);
  });
});
