import { chakra } from '@chakra-ui/react';
import { type ComponentProps, useId } from 'react';
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
import { StackBody, StackCell, StackHead, StackRow, StackTable } from '../../kit/table/Stack';
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

const Head = chakra('th', {
  base: {
    textStyle: 'small',
    color: 'quiet',
    textAlign: 'left',
    fontWeight: 'plain',
    padding: '1',
  },
});
const Cell = (props: ComponentProps<typeof StackCell>) => (
  <StackCell stack="lg" padding="1" {...props} />
);

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
      <StackTable stack="lg" marginTop="3" aria-label="Cases">
        <StackHead stack="lg">
          <tr>
            <Head width="170px">Case</Head>
            {NUMBERS.map(({ field, title }) => (
              <Head key={field}>
                {title} {symbol(field)}
              </Head>
            ))}
            {SWITCHES.map(({ field, title }) => (
              <Head key={field} textAlign="center">
                {title}
              </Head>
            ))}
            <Head>load from</Head>
            <Head>verdict</Head>
            <Head>
              <Words size="small" tone="quiet">
                rest
              </Words>
            </Head>
          </tr>
        </StackHead>
        <StackBody stack="lg">
          {cases.map((entry, i) => {
            const found = evaluation?.cases.find((c) => c.id === entry.id);
            return (
              <StackRow stack="lg" key={entry.id}>
                <Cell wide label="case">
                  <NameCell path={`/cases/${i}/name`} row={i + 1} />
                </Cell>
                {NUMBERS.map(({ field, title }) => (
                  <Cell key={field} label={`${title} ${symbol(field)}`}>
                    <NumberCell path={`/cases/${i}/${field}`} label={`${entry.name}, ${title}`} />
                  </Cell>
                ))}
                {SWITCHES.map(({ field, title }) => (
                  <Cell key={field} label={title} textAlign={{ lg: 'center' }}>
                    <SwitchCell path={`/cases/${i}/${field}`} label={`${entry.name}, ${title}`} />
                  </Cell>
                ))}
                <Cell label="load from">
                  <LoadCell path={`/cases/${i}/load`} label={`${entry.name}, load from`} />
                </Cell>
                <Cell label="verdict">{found && <VerdictMark verdict={found.verdict} />}</Cell>
                <Cell>
                  <Button
                    look="bare"
                    aria-label={`More of ${entry.name}`}
                    onClick={() => onEdit(entry.id)}
                  >
                    more
                  </Button>
                </Cell>
              </StackRow>
            );
          })}
        </StackBody>
      </StackTable>
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
