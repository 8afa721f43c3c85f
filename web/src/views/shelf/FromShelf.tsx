import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useId, useState } from 'react';
import { Box, Button, Heading, Input, Row, Select, Words } from '../../kit/primitives';
import { importShelf } from '../../model/api/client';
import { readAgain, shelfQuery } from '../../model/api/queries';
import type { ShelfImport, ShelfKind, ShelfPart } from '../../model/api/types';
import { type StationName, stations } from '../../model/document/stations';
import { useSession } from '../../model/save/context';
import { asShelfPart, fittedPart, unchanged, withPart } from './slots';

/** Takes a part from the shelf into the shown variant, or puts the fitted one on the shelf. */
export function FromShelf({
  station,
  kind,
}: {
  readonly station: StationName;
  readonly kind: ShelfKind;
}) {
  const id = useId();
  const shelf = useQuery(shelfQuery());
  const build = useSession((s) => s.build);
  const index = useSession((s) => s.variant);
  const setBuild = useSession((s) => s.setBuild);
  const [adding, setAdding] = useState(false);
  const [put, setPut] = useState<string | null>(null);
  const variant = build.variants[index];
  if (!variant) return null;
  const parts = shelf.data ? [...shelf.data.own, ...shelf.data.shipped] : [];
  const mine = parts.filter((part) => part.part === kind);
  const taken = fittedPart(variant, kind).from_shelf as { id: string; version: number } | null;
  const fitted = taken ? mine.find((part) => part.id === taken.id) : undefined;

  function take(part: ShelfPart | undefined) {
    if (part && shelf.data)
      setBuild(withPart(build, index, part, shelf.data.fields[part.part] ?? []));
  }

  return (
    <Box marginBottom="5">
      <Row flexWrap="wrap" justifyContent="space-between">
        <Heading id={id}>From the shelf</Heading>
        <Button
          look="bare"
          disabled={!shelf.data}
          onClick={() => {
            setPut(null);
            setAdding(!adding);
          }}
          aria-expanded={adding}
        >
          put this one on the shelf
        </Button>
      </Row>
      <Select
        aria-labelledby={id}
        value={fitted?.id ?? ''}
        disabled={mine.length === 0}
        onChange={(event) => take(mine.find((part) => part.id === event.target.value))}
      >
        <option value="" disabled>
          {taken ? `${taken.id}, no longer on the shelf` : 'choose one to copy its values'}
        </option>
        {[true, false].map((own) => {
          const group = mine.filter((part) => shelf.data?.own.includes(part) === own);
          return (
            group.length > 0 && (
              <optgroup key={String(own)} label={own ? 'your own' : 'generic'}>
                {group.map((part) => (
                  <option key={part.id} value={part.id}>
                    {part.name}
                  </option>
                ))}
              </optgroup>
            )
          );
        })}
      </Select>
      <Words size="small" tone="quiet" display="block" minHeight="1.35em">
        {shelf.isError && `The shelf cannot be read: ${shelf.error.message}`}
        {fitted && taken && standing(fitted, taken.version, unchanged(variant, fitted))}
      </Words>
      {adding && (
        <PutOnShelf
          part={(name) => asShelfPart(variant, kind, shelf.data?.fields[kind] ?? [], name)}
          what={stations[station].title}
          onDone={(said) => {
            setAdding(false);
            setPut(said);
          }}
        />
      )}
      {put && (
        <Words role="status" size="small" display="block">
          {put}
        </Words>
      )}
    </Box>
  );
}

function standing(part: ShelfPart, version: number, same: boolean): string {
  const note = part.note ? ` ${part.note}` : '';
  if (part.version !== version)
    return `Taken as version ${version}; the shelf has version ${part.version} now. Choose it again to take that.`;
  return same ? `As on the shelf.${note}` : 'Taken from there and changed here since.';
}

/** What became of a part that was put on the shelf. */
function come(name: string, { added, changed }: ShelfImport): string {
  if (added.length > 0) return `“${name}” is on the shelf.`;
  const newer = changed.length > 0;
  return `The shelf had “${name}” already; ${newer ? 'this is its newer version now' : 'it is just the same'}.`;
}

function PutOnShelf({
  part,
  what,
  onDone,
}: {
  readonly part: (name: string) => ReturnType<typeof asShelfPart>;
  readonly what: string;
  /** Called with what came of it. */
  readonly onDone: (said: string) => void;
}) {
  const queries = useQueryClient();
  const [name, setName] = useState('');
  const [said, setSaid] = useState<string | null>(null);

  async function put() {
    const text = JSON.stringify({ format: 'ebbrin-shelf', version: 1, parts: [part(name.trim())] });
    try {
      const found = await importShelf(text, 'json');
      const refused = found.refused[0];
      await readAgain(queries, ['shelf']);
      if (refused)
        return setSaid(`${refused.column ? `${refused.column}: ` : ''}${refused.message}`);
      onDone(come(name.trim(), found));
    } catch (error) {
      setSaid(error instanceof Error ? error.message : 'The server does not answer.');
    }
    return undefined;
  }

  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        void put();
      }}
    >
      <Row gap="2" marginTop="2">
        <Input
          autoFocus
          aria-label={`Name on the shelf, ${what}`}
          placeholder="what you call it"
          value={name}
          maxLength={120}
          onChange={(event) => setName(event.target.value)}
        />
        <Button type="submit" look="main" disabled={name.trim() === ''}>
          Put it there
        </Button>
      </Row>
      {said && (
        <Words role="alert" size="small" tone="fails" display="block">
          {said}
        </Words>
      )}
    </form>
  );
}
