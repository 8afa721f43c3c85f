import { describe, expect, it } from 'vitest';
import type { BuildSummary } from '../../model/api/types';
import { sorted } from './Home';

const line = (
  name: string,
  chance: number | null,
  workshop = 'Yard',
  worst: string | null = null,
) => ({ id: name, name, chance, workshop, worst_case: worst }) as BuildSummary;
const builds = [
  line('Mule 10', 0.02, 'Thornbeck', 'The pass'),
  line('linnet', 0.4),
  line('Mule 9', null),
];
const names = (found: BuildSummary[]) => found.map((build) => build.name);

describe('the list of builds', () => {
  it('stands as the server has it, or by name, or the worst first', () => {
    expect(names(sorted(builds, 'saved', ''))).toEqual(['Mule 10', 'linnet', 'Mule 9']);
    expect(names(sorted(builds, 'name', ''))).toEqual(['linnet', 'Mule 9', 'Mule 10']);
    expect(names(sorted(builds, 'worst', ''))).toEqual(['Mule 10', 'linnet', 'Mule 9']);
  });

  it('is searched by every word, in name, workshop and worst case', () => {
    expect(names(sorted(builds, 'saved', 'MULE'))).toEqual(['Mule 10', 'Mule 9']);
    expect(names(sorted(builds, 'saved', 'mule pass'))).toEqual(['Mule 10']);
    expect(names(sorted(builds, 'saved', 'thorn'))).toEqual(['Mule 10']);
    expect(sorted(builds, 'saved', 'nothing')).toEqual([]);
    expect(builds[0]?.name).toBe('Mule 10');
  });
});
