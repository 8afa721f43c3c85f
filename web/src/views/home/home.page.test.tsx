import { cleanup } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

describe('the list of builds', () => {
  it('says of each how it stands, and leads to it', async () => {
    const { screen } = await opened('/');
    const link = await screen.findByRole('link', { name: /Mule/ });
    expect(link.getAttribute('href')).toBe(`/builds/${MULE}`);
    expect(said(link)).toContain('The pass, 2200 m');
    expect(said(link)).toContain('fails');
    expect(screen.getAllByRole('link', { name: /Linnet|Mule|Brigade/ })).toHaveLength(3);
  });

  it('asks for a name before anything is stored', async () => {
    const { screen, user, server } = await opened('/');
    await user.click(await screen.findByRole('button', { name: 'Begin the build' }));
    expect(screen.getByRole('alert').textContent).toBe('Give the build a name first.');
    expect(screen.getByLabelText('What is it called?').getAttribute('aria-invalid')).toBe('true');
    expect(server.sent('POST /builds')).toEqual([]);
  });

  it('makes a build with what was typed, under a name of its own for a broken line', async () => {
    const failing = new Refusal(503, 'The database is busy.');
    const { screen, user, server } = await opened(
      '/',
      new RecordedServer({ 'POST /builds': failing }),
    );
    const name = (await screen.findByLabelText('What is it called?')) as HTMLInputElement;
    await user.type(name, 'Hill climber');
    await user.click(screen.getByRole('button', { name: 'Begin the build' }));
    expect(said(await screen.findByRole('alert'))).toContain('What you typed is still here');
    expect(name.value).toBe('Hill climber');
    expect(server.sent('POST /builds')[0]).toMatchObject({ name: 'Hill climber' });
  });

  it('names what is wrong with a file, and how much more there is', async () => {
    const errors = Array.from({ length: 10 }, (_, n) => ({
      path: `/cases/${n}/duration_s`,
      message: `Duration of case ${n} is missing.`,
    }));
    const refused = new Refusal(422, '10 values of the build cannot be used.', { errors });
    const { screen, user } = await opened('/', new RecordedServer({ 'POST /builds': refused }));
    const picker = await screen.findByLabelText('File with a build');
    await user.upload(picker, new File(['{}'], 'a.json', { type: 'application/json' }));
    const told = said(await screen.findByRole('alert'));
    expect(told).toContain('/cases/7/duration_s: Duration of case 7 is missing.');
    expect(told).not.toContain('/cases/8/');
    expect(told).toContain('and 2 more');
  });

  it('says that the server is away, and goes on asking', async () => {
    const away = () => {
      throw new TypeError('Failed to fetch');
    };
    const { screen } = await opened('/', new RecordedServer({ 'GET /builds': away }));
    expect(await screen.findByText(/does not answer/)).toBeDefined();
  });
});

describe('an address at which nothing stands', () => {
  it('says so', async () => {
    const { screen } = await opened('/nowhere');
    expect(
      await screen.findByRole('heading', { name: 'Nothing stands at this address' }),
    ).toBeDefined();
    expect(screen.getByRole('link', { name: 'All builds' }).getAttribute('href')).toBe('/');
  });
});
