import { describe, expect, it } from 'vitest';
import { toMapEdits } from './choose-differences.ts';
import type { MapDifference } from './compare-map.ts';

describe('changed fields of a node', () => {
  it('become an edit: flags as such, what is taken away as nothing, a description as empty text', () => {
    const changes = [
      { field: 'critical', before: 'no', after: 'yes' },
      { field: 'retired', before: 'yes', after: 'no' },
      { field: 'name', before: 'Old', after: 'New' },
      { field: 'team', before: 'Desk', after: '' },
      { field: 'description', before: 'Long', after: '' },
    ];
    const difference = {
      kind: 'changed',
      code: 'A',
      name: 'New',
      parent: null,
      parentBefore: null,
      depth: 0,
      fields: {},
      place: {},
      changes,
    } as unknown as MapDifference;
    expect(toMapEdits([difference], { leftOut: [], missing: 'keep' })).toEqual([
      { kind: 'change', code: 'A', change: { isCritical: true, isRetired: false, name: 'New', team: null, description: '' } },
    ]);
  });
});
