import { cleanup } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { opened } from '../../testing/page';

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
    await user.selectOptions(screen.getByLabelText('How many faults'), 'two');
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
});
