import { useId } from 'react';
import { useNumberText } from '../../kit/field/useNumberText';
import {
  Box,
  Button,
  Input,
  Paragraph,
  Row,
  Select,
  Tick,
  Title,
  Words,
} from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { VerdictMark } from '../../kit/words/VerdictMark';
import { fieldSpec, isRelevant, valueAt } from '../../model/document/fields';
import type { CaseKind } from '../../model/document/kinds';
import { useSession } from '../../model/save/context';
import { formatQuantity } from '../../model/units/format';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { AddCase } from './Cases';

/** What most cases differ in; everything else stands in a case's own editor. */
const NUMBERS = [
  { field: 'speed_km_h', title: 'speed' },
  { field: 'engine_rpm', title: 'engine' },
  { field: 'gradient_share', title: 'gradient' },
  { field: 'brake_power_kw', title: 'power' },
  { field: 'ambient_c', title: 'ambient' },
  { field: 'altitude_m', title: 'altitude' },
] as const;
const SWITCHES = [
  { field: 'air_conditioning', title: 'A/C' },
  { field: 'heater', title: 'heater' },
  { field: 'tows', title: 'trailer' },
] as const;

/** Every case as a row of fields. */
export function Rows({
  onEdit,
  onAdd,
  onDone,
}: {
  readonly onEdit: (id: string) => void;
  readonly onAdd: (kind: CaseKind) => void;
  readonly onDone: () => void;
}) {
  const units = useUnits((u) => u.units);
  const cases = useSession((s) => s.build.cases);
  const evaluation = useSession((s) => s.evaluation);
  const symbol = (field: string) =>
    shownUnit(fieldSpec(`/cases/0/${field}`).quantity, units).symbol;
  return (
    <Box
      as="section"
      aria-label="Cases as rows"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="4"
    >
      <Row flexWrap="wrap" justifyContent="space-between">
        <Title>What it must survive</Title>
        <Button onClick={onDone} title="Esc">
          Back to the loop
        </Button>
      </Row>
      <Paragraph tone="quiet" marginBlock="1">
        An empty ambient or altitude is that of the site. A dash does not matter for that case;
        “more” has the rest.
      </Paragraph>
      <Table kind="bare" stack="lg" marginTop="3" aria-label="Cases">
        <TableHead>
          <tr>
            <Column width="170px">Case</Column>
            {NUMBERS.map(({ field, title }) => (
              <Column key={field}>
                {title} {symbol(field)}
              </Column>
            ))}
            {SWITCHES.map(({ field, title }) => (
              <Column key={field} textAlign="center">
                {title}
              </Column>
            ))}
            <Column>load from</Column>
            <Column>verdict</Column>
            <Column>
              <Words size="small" tone="quiet">
                rest
              </Words>
            </Column>
          </tr>
        </TableHead>
        <TableBody>
          {cases.map((entry, i) => {
            const found = evaluation?.cases.find((c) => c.id === entry.id);
            return (
              <TableRow key={entry.id}>
                <Cell gridColumn="1 / -1" data-label="case">
                  <NameCell path={`/cases/${i}/name`} row={i + 1} />
                </Cell>
                {NUMBERS.map(({ field, title }) => (
                  <Cell key={field} data-label={`${title} ${symbol(field)}`}>
                    <NumberCell path={`/cases/${i}/${field}`} label={`${entry.name}, ${title}`} />
                  </Cell>
                ))}
                {SWITCHES.map(({ field, title }) => (
                  <Cell key={field} data-label={title} textAlign={{ lg: 'center' }}>
                    <SwitchCell path={`/cases/${i}/${field}`} label={`${entry.name}, ${title}`} />
                  </Cell>
                ))}
                <Cell data-label="load from">
                  <LoadCell path={`/cases/${i}/load`} label={`${entry.name}, load from`} />
                </Cell>
                <Cell data-label="verdict">{found && <VerdictMark verdict={found.verdict} />}</Cell>
                <Cell>
                  <Button
                    look="bare"
                    aria-label={`More of ${entry.name}`}
                    onClick={() => onEdit(entry.id)}
                  >
                    more
                  </Button>
                </Cell>
              </TableRow>
            );
          })}
        </TableBody>
      </Table>
      <AddCase onAdd={onAdd} />
    </Box>
  );
}

const None = () => (
  <Words tone="quiet" aria-hidden="true" paddingInline="3">
    –
  </Words>
);

function NameCell({ path, row }: { readonly path: string; readonly row: number }) {
  const name = useSession((s) => valueAt(s.build, path)) as string;
  const setValue = useSession((s) => s.setValue);
  return (
    <Input
      aria-label={`Name of case ${row}`}
      value={name}
      maxLength={120}
      paddingInline="2"
      aria-invalid={name.trim() === '' || undefined}
      onChange={(event) => setValue(path, event.target.value)}
    />
  );
}

function NumberCell({ path, label }: { readonly path: string; readonly label: string }) {
  const id = useId();
  const relevant = useSession((s) => isRelevant(s.build, path));
  const site = useSession((s) => s.build.site);
  const { text, wrong, change, leave, units } = useNumberText(path);
  if (!relevant) return <None />;
  const spec = fieldSpec(path);
  const key = path.split('/').at(-1) as keyof NonNullable<typeof site>;
  const inherited = site?.[key];
  const placeholder =
    typeof inherited === 'number'
      ? formatQuantity(inherited, spec.quantity, units).split(' ')[0]
      : typeof spec.assumed === 'number'
        ? formatQuantity(spec.assumed, spec.quantity, units).split(' ')[0]
        : undefined;
  return (
    <>
      <Input
        aria-label={label}
        aria-describedby={wrong ? `${id}-wrong` : undefined}
        value={text}
        placeholder={placeholder}
        autoComplete="off"
        minWidth="62px"
        paddingInline="2"
        textAlign="right"
        aria-invalid={wrong !== null || undefined}
        data-path={path}
        onChange={(event) => change(event.target.value)}
        onBlur={leave}
      />
      {wrong && (
        <Words id={`${id}-wrong`} role="alert" size="small" tone="fails" display="block">
          {wrong}
        </Words>
      )}
    </>
  );
}

function SwitchCell({ path, label }: { readonly path: string; readonly label: string }) {
  const relevant = useSession((s) => isRelevant(s.build, path));
  const value = useSession((s) => valueAt(s.build, path)) as boolean;
  const setValue = useSession((s) => s.setValue);
  if (!relevant) return <None />;
  return (
    <Box
      as="label"
      display="inline-flex"
      minWidth="target"
      minHeight="target"
      alignItems="center"
      justifyContent="center"
    >
      <Tick
        type="checkbox"
        aria-label={label}
        checked={value}
        onChange={(event) => setValue(path, event.target.checked)}
      />
    </Box>
  );
}

function LoadCell({ path, label }: { readonly path: string; readonly label: string }) {
  const value = useSession((s) => valueAt(s.build, path)) as string;
  const setValue = useSession((s) => s.setValue);
  return (
    <Select
      aria-label={label}
      width="92px"
      value={value}
      onChange={(event) => setValue(path, event.target.value)}
    >
      <option value="road">road</option>
      <option value="power">power</option>
    </Select>
  );
}
