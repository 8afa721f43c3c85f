import { cleanup, screen } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { useState } from 'react';
import { afterEach, expect, it } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Tabs } from './Tabs';

afterEach(cleanup);

const OF = [
  { value: 'heat', word: 'Heat' },
  { value: 'air', word: 'Air' },
  { value: 'flow', word: 'Flow' },
] as const;

function Shown() {
  const [value, setValue] = useState<'heat' | 'air' | 'flow'>('heat');
  return (
    <Tabs label="Curves" of={OF} value={value} onValue={setValue}>
      <p>curve of {value}</p>
    </Tabs>
  );
}

it('shows the chosen one alone, once it is pressed', async () => {
  drawn(<Shown />);
  const user = userEvent.setup();
  const chosen = () =>
    screen.getAllByRole('tab').filter((tab) => tab.getAttribute('aria-selected') === 'true');
  expect(screen.getByRole('tablist', { name: 'Curves' })).toBeDefined();
  expect(chosen().map((tab) => tab.textContent)).toEqual(['Heat']);
  expect(screen.getAllByText(/^curve of/).map((one) => one.textContent)).toEqual(['curve of heat']);
  await user.click(screen.getByRole('tab', { name: 'Air' }));
  expect(chosen().map((tab) => tab.textContent)).toEqual(['Air']);
  expect(await screen.findByText('curve of air')).toBeDefined();
  expect(screen.queryByText('curve of heat')).toBeNull();
});

it('is one stop of the tabulator', () => {
  drawn(<Shown />);
  expect(screen.getAllByRole('tab').filter((tab) => tab.tabIndex === 0)).toHaveLength(1);
});
