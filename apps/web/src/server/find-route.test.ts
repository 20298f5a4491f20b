import { ROUTES } from '@kindred-baton/contracts/routes';
import { describe, expect, it } from 'vitest';
import { ANSWERS } from './answers/answers.ts';
import { findRoute } from './find-route.ts';

const find = (method: string, path: string) => findRoute(ROUTES, method, path);

describe('the route of an address', () => {
  it('is found by method and path, with its parameters as they stand there', () => {
    expect(find('PUT', '/attempts/a-1/steps/3')).toEqual({ name: 'recordStep', params: { attempt: 'a-1', step: '3' } });
    expect(find('GET', '/tests/T-1')).toEqual({ name: 'getTest', params: { code: 'T-1' } });
    expect(find('DELETE', '/tests/T-1')).toBeUndefined();
  });

  it('is the plainer one where two fit: the list of turns is no turn', () => {
    expect(find('GET', '/turns/list')?.name).toBe('listTurns');
    expect(find('GET', '/turns/another')?.name).toBe('getGuide');
    expect([find('GET', '/cycles/scope')?.name, find('GET', '/defects/likely')?.name, find('GET', '/defects/export')?.name]).toEqual([
      'getCycleScope',
      'getLikelySame',
      'exportDefects',
    ]);
  });

  it('is none for an address that is longer, shorter or empty', () => {
    expect([find('GET', '/'), find('GET', '/map/nodes'), find('GET', '/map/nodes/A/B'), find('GET', '/elsewhere')]).toEqual([
      undefined,
      undefined,
      undefined,
      undefined,
    ]);
  });

  it('is answered, each and no other', () => expect(Object.keys(ANSWERS).sort()).toEqual(Object.keys(ROUTES).sort()));

  it('names every parameter that it reads', () => {
    const unread = Object.entries(ROUTES).flatMap(([name, route]) =>
      'params' in route
        ? Object.keys(route.params)
            .filter((param) => !route.path.includes(`:${param}`))
            .map((param) => `${name} ${param}`)
        : [],
    );
    expect(unread).toEqual([]);
  });
});
