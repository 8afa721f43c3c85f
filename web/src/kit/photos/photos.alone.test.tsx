import { cleanup, screen, waitFor } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { afterEach, describe, expect, it, vi } from 'vitest';
import { drawn } from '../../testing/drawn';
import { Photos, TakePhoto } from './Photos';

const kept = vi.hoisted(() => ({
  small: vi.fn(),
  keepPhoto: vi.fn(),
  waitingPhoto: vi.fn(),
}));
vi.mock('../../model/journal/photos', () => kept);

afterEach(() => {
  cleanup();
  vi.resetAllMocks();
});

const picture = new File(['…'], 'hose.jpg', { type: 'image/jpeg' });

describe('a photo that is taken', () => {
  const take = async (onTaken = vi.fn()) => {
    drawn(<TakePhoto label="Photo of the hose" onTaken={onTaken} />);
    await userEvent.setup().upload(screen.getByLabelText('Photo of the hose'), picture);
    return onTaken;
  };

  it('is made small and kept before anybody is told of it', async () => {
    const little = new Blob(['.']);
    kept.small.mockResolvedValue(little);
    kept.keepPhoto.mockResolvedValue(undefined);
    const onTaken = await take();
    await waitFor(() => expect(onTaken).toHaveBeenCalledTimes(1));
    expect(kept.keepPhoto).toHaveBeenCalledWith(onTaken.mock.calls[0]?.[0], little);
  });

  it('that cannot be read is said, and nothing is kept', async () => {
    kept.small.mockRejectedValue(new Error('no picture'));
    const onTaken = await take();
    expect((await screen.findByRole('alert')).textContent).toBe(
      'This is no picture that can be read.',
    );
    expect(onTaken).not.toHaveBeenCalled();
    expect(kept.keepPhoto).not.toHaveBeenCalled();
  });

  it('that a browser cannot keep is said as that', async () => {
    kept.small.mockResolvedValue(new Blob(['.']));
    kept.keepPhoto.mockRejectedValue(new DOMException('full', 'QuotaExceededError'));
    const onTaken = await take();
    expect((await screen.findByRole('alert')).textContent).toContain('has no room for it');
    expect(onTaken).not.toHaveBeenCalled();
  });
});

describe('photos of a journal', () => {
  it('are shown from this browser while they wait, and from the server then', async () => {
    kept.waitingPhoto.mockImplementation(async (id: string) =>
      id === 'here' ? 'blob:here' : null,
    );
    const at = '2026-05-14T08:00:00Z';
    drawn(
      <Photos
        entries={[
          { id: '1', at, photo: 'here' },
          { id: '2', at, photo: 'sent' },
        ]}
      />,
    );
    const shown = await waitFor(() => {
      const found = screen.getAllByRole('img') as HTMLImageElement[];
      expect(found).toHaveLength(2);
      return found;
    });
    expect(shown[0]?.getAttribute('src')).toBe('blob:here');
    expect(shown[1]?.getAttribute('src')).toContain('sent');
    expect(shown.every((one) => one.alt.startsWith('Taken '))).toBe(true);
  });

  it('are nothing where there is none', () => {
    const { container } = drawn(<Photos entries={[]} />);
    expect(container.textContent).toBe('');
    expect(screen.queryAllByRole('img')).toHaveLength(0);
  });
});
