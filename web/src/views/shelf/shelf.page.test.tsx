import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { opened, said } from '../../testing/page';

afterEach(cleanup);

describe('the shelf', () => {
  it('shows a kind of part at a time, in the units that are chosen', async () => {
    const { screen, user } = await opened('/shelf');
    const table = await screen.findByRole('table', { name: 'Radiators' });
    await waitFor(() => expect(within(table).getAllByRole('row').length).toBeGreaterThan(5));
    expect(said(table)).toContain('430 × 300 × 26 mm');
    await user.click(screen.getByRole('tab', { name: 'Caps' }));
    const caps = await screen.findByRole('table', { name: 'Caps' });
    expect(said(caps)).toContain('103 kPa');
    await user.selectOptions(screen.getByLabelText('Units'), 'us');
    expect(said(caps)).toContain('psi');
    await user.selectOptions(screen.getByLabelText('Units'), 'metric');
  });

  it('says whose a part is: what came with it cannot be taken off', async () => {
    const { screen } = await opened('/shelf');
    const table = await screen.findByRole('table', { name: 'Radiators' });
    expect((await within(table).findAllByText('generic')).length).toBeGreaterThan(3);
    expect(within(table).queryAllByRole('button')).toEqual([]);
  });
});
