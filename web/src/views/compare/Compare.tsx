import { usePhone } from '../../kit/page/usePhone';
import { Box, Heading, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { VerdictMark } from '../../kit/words/VerdictMark';
import type { Build, Evaluation } from '../../model/api/types';
import { titlesOf, valueInWords } from '../../model/document/differing';
import { columnsOf, differences } from '../../model/document/edit';
import { sameValue, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { useUnits } from '../../model/units/store';
import { boundOf, hottest } from '../../model/words/hottest';

/** Up to four variants side by side: every case, the four answers, and what differs between them. */
export function Compare({ evaluation }: { readonly evaluation: Evaluation }) {
  const build = useSession((s) => s.build);
  const index = useSession((s) => s.variant);
  const further = useSession((s) => s.further);
  const units = useUnits((u) => u.units);
  const phone = usePhone();
  const shown = build.variants[index];
  if (!shown) return null;
  const columns = columnsOf(build, shown.id).slice(0, phone ? 2 : 4);
  const answer = (id: string) => (id === shown.id ? evaluation : (further?.others[id] ?? null));
  const unjudged = (id: string) => (id === shown.id ? undefined : further?.unjudged[id]);
  const parts = differences(columns);
  const titles = titlesOf(
    parts.map((path) => `/variants/0/${path}`),
    units,
  );
  return (
    <Box
      as="section"
      aria-label="Variants side by side"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="4"
    >
      <Title>Side by side</Title>
      {build.variants.length > columns.length && (
        <Paragraph tone="quiet">
          {phone ? 'Two' : 'Four'} at a time: the shown one and the first of the others.
        </Paragraph>
      )}
      <Table kind="entries" tableLayout="fixed" css={{ '& td': { verticalAlign: 'top' } }}>
        <TableHead>
          <tr>
            <Column width="23%">
              <Words size="small" tone="quiet">
                Case
              </Words>
            </Column>
            {columns.map((entry, i) => (
              <Column key={entry.id} textStyle="body" fontWeight="strong" color="ink">
                {i + 1} {entry.name}
              </Column>
            ))}
          </tr>
        </TableHead>
        <TableBody>
          {build.cases.map((entry) => (
            <TableRow key={entry.id}>
              <Cell>{entry.name}</Cell>
              {columns.map((column) => (
                <CaseCell
                  key={column.id}
                  evaluation={answer(column.id)}
                  unjudged={unjudged(column.id)}
                  id={entry.id}
                />
              ))}
            </TableRow>
          ))}
          {(['radiator', 'airflow', 'thermostat', 'cap'] as const).map((name) => (
            <TableRow key={name}>
              <Cell>{name.charAt(0).toUpperCase() + name.slice(1)}</Cell>
              {columns.map((column) => {
                const found = answer(column.id)?.answers[name];
                return (
                  <Cell key={column.id}>
                    {found ? (
                      <>
                        <Words size="body" fontWeight="firm" display="block">
                          <Sentence text={found.headline} />
                        </Words>
                        <Words size="small" tone={found.verdict}>
                          <Sentence text={found.sentence} />
                        </Words>
                      </>
                    ) : (
                      <Words tone="quiet">{unjudged(column.id) ? '–' : '…'}</Words>
                    )}
                  </Cell>
                );
              })}
            </TableRow>
          ))}
          {columns.some((column) => warningsOf(answer(column.id)).length > 0) && (
            <TableRow>
              <Cell>To mind</Cell>
              {columns.map((column) => (
                <Cell key={column.id}>
                  {warningsOf(answer(column.id)).map((text) => (
                    <Words key={JSON.stringify(text)} size="small" tone="fails" display="block">
                      <Sentence text={text} />
                    </Words>
                  ))}
                </Cell>
              ))}
            </TableRow>
          )}
        </TableBody>
      </Table>
      {columns.map((column) => {
        const why = unjudged(column.id);
        return (
          why && (
            <Paragraph key={column.id} marginTop="3">
              {column.name} is not judged yet. {why}
            </Paragraph>
          )
        );
      })}
      <Heading marginTop="5">What differs</Heading>
      {parts.length === 0 && <Paragraph tone="quiet">Nothing: these are copies.</Paragraph>}
      <Table
        kind="entries"
        tableLayout="fixed"
        css={{ '& td': { verticalAlign: 'top' } }}
        marginTop="0"
      >
        <TableBody>
          {parts.map((path, row) => (
            <TableRow key={path}>
              <Cell width="23%">{titles[row]}</Cell>
              {columns.map((column, i) => {
                const pointer = pointerIn(build, column, path);
                const value = valueAt(build, pointer);
                const same =
                  i > 0 &&
                  sameValue(value, valueAt(build, pointerIn(build, columns[0] ?? column, path)));
                return (
                  <Cell key={column.id}>
                    <Words tone={same ? 'quiet' : 'ink'} fontWeight={same ? 'plain' : 'strong'}>
                      {valueInWords(build, pointer, value, units)}
                    </Words>
                  </Cell>
                );
              })}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}

function pointerIn(build: Build, variant: Build['variants'][number], path: string): string {
  return `/variants/${build.variants.indexOf(variant)}/${path}`;
}

function CaseCell({
  evaluation,
  unjudged,
  id,
}: {
  readonly evaluation: Evaluation | null;
  /** Why there is no evaluation and will be none. */
  readonly unjudged: string | undefined;
  readonly id: string;
}) {
  const found = evaluation?.cases.find((entry) => entry.id === id);
  if (!found)
    return (
      <Cell>
        <Words tone="quiet">{unjudged === undefined ? '…' : 'not judged yet'}</Words>
      </Cell>
    );
  return (
    <Cell>
      <Row gap="2" flexWrap="wrap" alignItems="baseline">
        <VerdictMark verdict={found.verdict} />
        <Words size="strong">
          {boundOf(found)}
          <Quantity value={hottest(found)} kind="temperature" none="never settles" />
        </Words>
      </Row>
      <Words size="small" tone="quiet" display="block">
        {found.margin_k === null ? (
          <>
            <Quantity value={found.shortfall_kw} kind="power" /> short
          </>
        ) : (
          <>
            <Quantity value={Math.abs(found.margin_k)} kind="temperature_difference" />{' '}
            {found.margin_k < 0 ? 'over' : 'left'}
          </>
        )}
        {found.timed === null && found.limiting_ambient_c !== null && (
          <>
            ; limit in air of <Quantity value={found.limiting_ambient_c} kind="temperature" />
          </>
        )}
      </Words>
    </Cell>
  );
}

/** What is warned of in a variant, as far as it is judged. */
const warningsOf = (evaluation: Evaluation | null) =>
  (evaluation?.findings ?? []).filter((one) => one.kind === 'warning').map((one) => one.text);
