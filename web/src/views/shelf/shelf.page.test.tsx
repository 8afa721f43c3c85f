import { cleanup, waitFor, within } from '@testing-library/react';
import { afterEach, describe, expect, it } from 'vitest';
import recorded from '../../testing/answers.json';
import { MULE, opened, RecordedServer, Refusal, said } from '../../testing/page';

afterEach(cleanup);

describe('a part of the build that is put on the shelf', () => {
  it.each([
    [{ added: ['out-of-mule'] }, '“Out of Mule” is on the shelf.'],
    [{ changed: ['out-of-mule'] }, 'this is its newer version now'],
    [{ unchanged: 1 }, 'it is just the same'],
  ])('is said to be there: %j', async (came, words) => {
    const none = { added: [], changed: [], unchanged: 0, refused: [] };
    const asks = 'POST /shelf/import?form=json';
    const server = new RecordedServer({ [asks]: { ...none, ...came } });
    const { screen, user } = await opened(`/builds/${MULE}/as-found/stations/radiator`, server);
    await user.click(await screen.findByRole('button', { name: 'put this one on the shelf' }));
    await user.type(screen.getByLabelText(/^Name on the shelf/), 'Out of Mule{Enter}');
    expect(await screen.findByText(words, { exact: false })).toBeDefined();
    expect(JSON.stringify(server.sent(asks)[0])).toContain('out-of-mule');
    expect(screen.queryByLabelText(/^Name on the shelf/)).toBeNull();
  });
});

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

  it('has prices in the workshop’s currency', async () => {
    const server = new RecordedServer({ 'GET /settings': { currency: '€' } });
    const { screen, user } = await opened('/shelf', server);
    await user.click(await screen.findByRole('tab', { name: 'Caps' }));
    const caps = await screen.findByRole('table', { name: 'Caps' });
    const open = (await within(caps).findByText('Open, no pressure')).closest('tr') as HTMLElement;
    await waitFor(() => expect(within(open).getAllByRole('cell').map(said)).toContain('6 €'));
  });

  it('names each row of a file that was not taken in, and has the others at once', async () => {
    const van = {
      part: 'radiator',
      id: 'white-van',
      version: 1,
      name: 'Out of the white van',
      note: '',
      price: 48.5,
      mass_kg: null,
      values: { width_mm: 700, height_mm: 440, depth_mm: 56 },
    };
    let taken = false;
    const server = new RecordedServer({
      'GET /shelf': () => ({ ...recorded['GET /shelf'], own: taken ? [van] : [] }),
      'POST /shelf/import?form=csv': () => {
        taken = true;
        return {
          added: ['white-van'],
          changed: [],
          unchanged: 0,
          refused: [
            { where: 'line 3', column: 'width_mm', message: 'Core width must be a number.' },
          ],
        };
      },
      'PUT /shelf/white-van/removed?removed=true': () => {
        taken = false;
        return {};
      },
      'PUT /shelf/white-van/removed?removed=false': () => {
        taken = true;
        return {};
      },
    });
    const { screen, user } = await opened('/shelf', server);
    const text = 'part,id,name\nradiator,white-van,Out of the white van\n';
    await user.upload(await screen.findByLabelText('Shelf file'), new File([text], 'parts.csv'));
    const files = screen.getByRole('region', { name: 'Files' });
    const told = await within(files).findByRole('status');
    expect(said(told)).toContain('1 new, 0 with a new version, 0 as they were, 1 not taken in.');
    expect(said(within(files).getByRole('list'))).toContain(
      'Line 3, width_mm: Core width must be a number.',
    );
    expect(server.sent('POST /shelf/import?form=csv')).toEqual([text]);
    const table = screen.getByRole('table', { name: 'Radiators' });
    const line = async () =>
      (await within(table).findByText('Out of the white van')).closest('tr') as HTMLElement;
    expect(
      within(await line())
        .getAllByRole('cell')
        .map(said),
    ).toContain('48.50');
    await user.click(within(await line()).getByRole('button', { name: /^Take Out of the white/ }));
    await user.click(await screen.findByRole('button', { name: 'Put it back' }));
    expect(said(await line())).toContain('700 × 440 × 56 mm');
  });

  it('says why nothing was taken in', async () => {
    const server = new RecordedServer({
      'POST /shelf/import?form=json': new Refusal(422, 'The file has no parts.'),
    });
    const { screen, user } = await opened('/shelf', server);
    await user.upload(await screen.findByLabelText('Shelf file'), new File(['[]'], 'parts.json'));
    const alert = await screen.findByText(/Nothing was taken in/);
    expect(said(alert)).toContain('The file has no parts.');
  });
});
