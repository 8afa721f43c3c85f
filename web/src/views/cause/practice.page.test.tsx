import { cleanup, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, said } from '../../testing/page';

afterEach(cleanup);

describe('a car to practise on', () => {
  it('has a number, and says which numbers there are', async () => {
    const { screen, user } = await opened('/practice');
    const number = await screen.findByLabelText('Number of the car');
    const bring = screen.getByRole('button', { name: 'Bring it in' }) as HTMLButtonElement;
    await user.type(number, '12.5');
    expect(screen.getByRole('alert').textContent).toContain('A whole number from 1 to');
    expect(bring.disabled).toBe(true);
    await user.clear(number);
    await user.type(number, '12');
    await user.selectOptions(screen.getByLabelText('What is hidden'), 'two');
    await user.click(bring);
    // Who has the same number has the same car: the address says it.
    expect(location.search).toBe('?car=12&faults=two');
  });

  it.each(['?car=abc', '?car=-1&faults=one', '?car=7&faults=toString'])(
    'is none at the address %s, which says so',
    async (query) => {
      const { screen, server } = await opened(`/practice${query}`);
      const said = await screen.findByRole('alert');
      expect(said.textContent).toContain('No car comes in at this address');
      expect(server.sent('POST /practice/car')).toEqual([]);
    },
  );

  it('comes in by an address, or says why it does not', async () => {
    const { screen, server } = await opened('/practice?car=7&faults=one');
    expect(await screen.findByText(/was not recorded/)).toBeDefined();
    expect(server.sent('POST /practice/car')[0]).toEqual({ seed: 7, difficulty: 'one' });
  });

  it('with two faults is told by two names, and what was missed is said', async () => {
    const truth = [['Fan runs backwards'], ['Slipping belt']];
    const { screen, user, server } = await opened(
      '/practice?car=7&faults=two',
      new RecordedServer({
        'POST /practice/car': {
          build: recorded[`GET /builds/${MULE}`].build,
          name: 'Mule',
          faults: 2,
          complaint: 'hot',
          said: ['it runs hot'],
        },
        'POST /practice/debrief': {
          right: false,
          truth: ['fan_reversed', 'belt'],
          titles: truth,
          missed: [truth[1]],
          wrong: [['Weak cap']],
          spent: 12,
          best: 8,
          score: 0,
          steps: [],
          best_order: [],
        },
      }),
    );
    const show = (await screen.findByRole('button', {
      name: 'It is this: show me',
    })) as HTMLButtonElement;
    const causes = screen.getByRole('region', { name: 'What it may be' });
    for (const [n, line] of [...causes.querySelectorAll('[data-cause]')].slice(0, 2).entries()) {
      await user.click(line);
      await user.click(await within(causes).findByRole('button', { name: 'name it' }));
      expect(show.disabled).toBe(n === 0);
      const left = said(show.parentElement).includes('1 more is to be named');
      expect(left).toBe(n === 0);
    }
    await user.click(show);
    const told = said(await screen.findByRole('region', { name: 'Debrief' }));
    expect(told).toContain('Right in part: 0 of 100');
    expect(told).toContain('It was “Fan runs backwards” and “Slipping belt”.');
    expect(told).toContain('You missed “Slipping belt”.');
    expect(told).toContain('You named “Weak cap”, which it was not.');
    expect(server.sent('POST /practice/debrief')[0]).toMatchObject({ asked: [], seed: 7 });
  });
});
