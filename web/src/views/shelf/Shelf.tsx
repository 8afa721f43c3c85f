import { chakra } from '@chakra-ui/react';
import { useQuery, useQueryClient } from '@tanstack/react-query';
import { useEffect, useState } from 'react';
import { FilePicker } from '../../kit/overlay/FilePicker';
import { Box, Button, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Tabs } from '../../kit/tabs/Tabs';
import { Quantity } from '../../kit/words/Quantity';
import { RefusedRows } from '../../kit/words/RefusedRows';
import { importShelf, removeFromShelf, shelfAddress } from '../../model/api/client';
import { readAgain, shelfQuery } from '../../model/api/queries';
import type { ShelfImport, ShelfKind, ShelfPart } from '../../model/api/types';
import { readText } from '../../model/document/buildFile';
import { fieldSpec } from '../../model/document/fields';
import { formatQuantity, shown } from '../../model/units/format';
import type { Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { inSentence } from '../../model/words/inSentence';
import { shelfKinds, slots } from './slots';

const FileLink = chakra('a', {
  base: {
    color: 'accent',
    minHeight: 'target',
    display: 'inline-flex',
    alignItems: 'center',
    paddingInline: '2',
    textDecoration: 'none',
    fontWeight: 'firm',
    _hover: { textDecoration: 'underline' },
  },
});

/** What a part is, in a line: its first few values in the reader's units. */
export function summary(part: ShelfPart, units: Units): string {
  const at = `/variants/0/${slots[part.part].path.join('/')}`;
  const said = (name: string, value: unknown): string | null => {
    const spec = fieldSpec(`${at}/${name}`);
    if (spec.labels) return inSentence(spec.labels[String(value)] ?? String(value));
    if (typeof value === 'number')
      return `${inSentence(spec.title)} ${formatQuantity(value, spec.quantity, units)}`;
    return null;
  };
  const { width_mm: w, height_mm: h, depth_mm: d, curve, ...rest } = part.values;
  const size =
    typeof w === 'number' && typeof h === 'number' && typeof d === 'number'
      ? [
          [
            shown(w, 'length', units).number,
            shown(h, 'length', units).number,
            formatQuantity(d, 'length', units),
          ].join(' × '),
        ]
      : [];
  const free = (curve as { flow_m3_per_s: number }[] | undefined)?.at(-1)?.flow_m3_per_s;
  const air = free === undefined ? [] : [`${formatQuantity(free, 'airflow', units)} in free air`];
  const others = Object.entries(rest).flatMap(([name, value]) => said(name, value) ?? []);
  return [...size, ...air, ...others].slice(0, 4).join('; ');
}

/** All parts that can be taken into a build, and the workshop's own among them. */
export function Shelf() {
  const shelf = useQuery(shelfQuery());
  const units = useUnits((u) => u.units);
  const queries = useQueryClient();
  const [kind, setKind] = useState<ShelfKind>('radiator');
  const [gone, setGone] = useState<ShelfPart | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    document.title = 'Shelf – Ebbrin';
  }, []);

  async function set(part: ShelfPart, removed: boolean) {
    setTrouble(null);
    try {
      await removeFromShelf(part.id, removed);
      setGone(removed ? part : null);
      await readAgain(queries, ['shelf']);
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'The server does not answer.');
    }
  }

  const own = shelf.data?.own.filter((part) => part.part === kind) ?? [];
  const shipped = shelf.data?.shipped.filter((part) => part.part === kind) ?? [];
  return (
    <>
      <Title textStyle="huge">Shelf</Title>
      <Paragraph tone="quiet" marginBlock="2" maxWidth="660px">
        Parts to copy into a build. The generic ones are round figures of common sizes; yours stand
        beside them. A build keeps the values that it took, whatever happens here.
      </Paragraph>
      <TakeIn />
      <Tabs
        label="Kinds of part"
        of={shelfKinds.map((name) => ({ value: name, word: slots[name].plural }))}
        value={kind}
        onValue={setKind}
      >
        {gone && (
          <Row marginTop="3" gap="2" role="status">
            <Words>{gone.name} is off the shelf.</Words>
            <Button look="bare" onClick={() => void set(gone, false)}>
              Put it back
            </Button>
          </Row>
        )}
        {(shelf.failureReason || trouble) && (
          <Paragraph role="alert" tone="fails" marginTop="3">
            {trouble ?? `The shelf cannot be read: ${shelf.failureReason?.message}`}
          </Paragraph>
        )}
        <Table kind="entries" marginTop="3" aria-label={slots[kind].plural}>
          <TableHead>
            <tr>
              <Column>Part</Column>
              <Column>Figures</Column>
              <Column textAlign="right">Price</Column>
              <Column>
                <Words size="small" tone="quiet">
                  Origin
                </Words>
              </Column>
            </tr>
          </TableHead>
          <TableBody>
            {[...own, ...shipped].map((part) => (
              <TableRow key={part.id}>
                <Cell>
                  <Words fontWeight="firm" display="block">
                    {part.name}
                  </Words>
                  <Words size="small" tone="quiet">
                    {part.id}
                    {part.version > 1 ? `, version ${part.version}` : ''}
                  </Words>
                </Cell>
                <Cell>
                  <Words size="small">{summary(part, units)}</Words>
                  {part.note && (
                    <Words size="small" tone="quiet" display="block">
                      {part.note}
                    </Words>
                  )}
                </Cell>
                <Cell textAlign="right">
                  <Quantity value={part.price} kind="price" none="–" />
                </Cell>
                <Cell whiteSpace="nowrap">
                  {own.includes(part) ? (
                    <Button
                      look="bare"
                      aria-label={`Take ${part.name} off the shelf`}
                      onClick={() => void set(part, true)}
                    >
                      take off
                    </Button>
                  ) : (
                    <Words size="small" tone="quiet">
                      generic
                    </Words>
                  )}
                </Cell>
              </TableRow>
            ))}
          </TableBody>
        </Table>
      </Tabs>
    </>
  );
}

/** Import with every row that did not fit named, and export. */
function TakeIn() {
  const queries = useQueryClient();
  const [found, setFound] = useState<ShelfImport | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);

  async function take(file: File) {
    setFound(null);
    setTrouble(null);
    try {
      const form = file.name.toLowerCase().endsWith('.json') ? 'json' : 'csv';
      setFound(await importShelf(await readText(file), form));
      await readAgain(queries, ['shelf']);
    } catch (error) {
      setTrouble(error instanceof Error ? error.message : 'The server does not answer.');
    }
  }

  return (
    <Box as="section" aria-label="Files">
      <Row gap="2" flexWrap="wrap" marginTop="4">
        <FilePicker
          look="main"
          label="Shelf file"
          accept=".csv,.json,text/csv,application/json"
          onFile={take}
        >
          Import a file
        </FilePicker>
        <FileLink href={shelfAddress('csv', false)} download>
          Export all, CSV
        </FileLink>
        <FileLink href={shelfAddress('csv', true)} download>
          Export your own, CSV
        </FileLink>
        <FileLink href={shelfAddress('json', true)} download>
          your own, JSON
        </FileLink>
      </Row>
      {trouble && (
        <Paragraph role="alert" tone="fails" marginTop="2">
          Nothing was taken in: {trouble}
        </Paragraph>
      )}
      {found && (
        <Box role="status" marginTop="2" background="sunken" borderRadius="soft" padding="3">
          <Words display="block" fontWeight="firm">
            {[
              `${found.added.length} new`,
              `${found.changed.length} with a new version`,
              `${found.unchanged} as they were`,
              `${found.refused.length} not taken in`,
            ].join(', ')}
            .
          </Words>
          {found.refused.length > 0 && (
            <RefusedRows label="Rows that were not taken in" rows={found.refused} />
          )}
        </Box>
      )}
    </Box>
  );
}
