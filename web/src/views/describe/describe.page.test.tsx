import { cleanup, waitFor } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, Refusal, said, saving } from '../../testing/page';

afterEach(cleanup);

const place = `/builds/${MULE}/as-found/describe`;

describe('what is known of a build', () => {
  it('says station by station what was guessed, and leads there', async () => {
    const { screen, user } = await opened(place);
    const view = await screen.findByRole('region', { name: 'Describe' });
    await waitFor(() => expect(said(view)).toMatch(/\d guessed: /));
    expect(said(view)).toContain('nothing guessed');
    await user.click(screen.getByText('Radiator core'));
    await waitFor(() =>
      expect(location.pathname).toBe(`/builds/${MULE}/as-found/stations/radiator`),
    );
  });
});

describe('a build without an answer yet', () => {
  const incomplete = new Refusal(422, '1 value is needed.', {
    type: 'urn:ebbrin:incomplete-build',
    errors: [
      { path: '/variants/0/radiator/width_mm', message: 'Core width is needed.', type: 'missing' },
    ],
  });
  const withoutWidth = async () => {
    const found = await new RecordedServer().fetch(new Request(`http://x/api/v1/builds/${MULE}`));
    const stored = (await found.json()) as { build: { variants: { radiator: object }[] } };
    const [first, ...others] = stored.build.variants;
    const radiator = { ...first?.radiator, width_mm: null };
    return { ...stored, build: { ...stored.build, variants: [{ ...first, radiator }, ...others] } };
  };

  it('asks for what is missing, keeps the field under the hand, and judges once it is there', async () => {
    const stored = await withoutWidth();
    const server: RecordedServer = new RecordedServer({
      ...saving(),
      [`GET /builds/${MULE}`]: stored,
      'POST /evaluate?variant=as-found&levers=false': async (body: unknown) => {
        if (!JSON.stringify(body).includes('"width_mm":640')) return incomplete;
        const answer = await new RecordedServer().fetch(
          new Request('http://x/api/v1/evaluate?variant=as-found&levers=false', { method: 'POST' }),
        );
        return answer.json();
      },
    });
    const { screen, user } = await opened(place, server);
    const width = (await screen.findByLabelText('Core width')) as HTMLInputElement;
    expect(screen.getByRole('heading', { name: 'What an answer needs' })).toBeDefined();
    expect(screen.getByText(/still to fill/)).toBeDefined();
    const see = screen.getByRole('button', { name: 'See the answer' }) as HTMLButtonElement;
    expect(see.disabled).toBe(true);
    await user.type(width, '640');
    await waitFor(() => expect(see.disabled).toBe(false));
    expect(document.activeElement).toBe(width);
    await user.click(see);
    expect(await screen.findByRole('region', { name: 'Four answers' })).toBeDefined();
    expect(location.pathname).toBe(`/builds/${MULE}/as-found`);
  });
});
