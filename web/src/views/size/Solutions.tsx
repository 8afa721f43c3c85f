import { chakra } from '@chakra-ui/react';
import { Box, Button, Heading, HiddenText, Row, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Mind } from '../../kit/words/Mind';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { Term } from '../../kit/words/Term';
import { VerdictMark } from '../../kit/words/VerdictMark';
import type { SizedSolution } from '../../model/api/types';
import { FULL } from '../../model/document/edit';
import { inDays, inPercent } from '../../model/words/days';

const Line = chakra(TableRow, {
  base: {
    cursor: 'pointer',
    paddingInline: { base: '2', md: '0' },
    _selected: { background: 'raised', boxShadow: 'inset 4px 0 0 {colors.accent}' },
  },
});
const Choose = chakra('button', {
  base: {
    background: 'none',
    border: 'none',
    textAlign: 'left',
    cursor: 'pointer',
    minHeight: 'target',
    width: '100%',
    paddingInline: '2',
  },
});

const SLOTS: Record<SizedSolution['parts'][number]['slot'], string> = {
  radiator: 'Core',
  fan: 'Fan',
  shroud: 'Shroud',
  pump: 'Pump',
  coolant: 'Coolant',
  thermostat: 'Thermostat',
  fan_switch: 'Fan switch',
  cap: 'Cap',
};

/** What a solution is best at, as its name. */
export function titleOf(solution: SizedSolution): string {
  return solution.titles
    .map((title) => title.filter((part) => typeof part === 'string').join(''))
    .join(', ');
}

/** The few, a row each. */
export function SolutionRows({
  solutions,
  chosen,
  full,
  onChoose,
  onOpen,
}: {
  readonly solutions: readonly SizedSolution[];
  readonly chosen: number;
  /** Whether the build holds no more variants. */
  readonly full: boolean;
  readonly onChoose: (solution: number) => void;
  readonly onOpen: (solution: SizedSolution) => void;
}) {
  return (
    <Table stack="md" aria-label="Solutions">
      <TableHead>
        <tr>
          <Column paddingLeft="2">Solution</Column>
          <Column>in hand</Column>
          <Column>
            <Term name="chance" />
          </Column>
          <Column>price</Column>
          <Column>draws</Column>
          <Column>
            <Term name="face" />
          </Column>
          <Column>
            <HiddenText>Workbench</HiddenText>
          </Column>
        </tr>
      </TableHead>
      <TableBody>
        {solutions.map((solution, i) => (
          <Line
            key={solution.variant.id}
            data-selected={i === chosen || undefined}
            onClick={() => onChoose(i)}
          >
            <Cell gridColumn="1 / -1" textAlign="left" whiteSpace="normal" padding="0">
              <Choose aria-pressed={i === chosen} onClick={() => onChoose(i)}>
                <Row gap="2">
                  <Words size="strong" minWidth="16px">
                    {i + 1}
                  </Words>
                  <VerdictMark verdict={solution.verdict} bare />
                  <Words fontWeight="firm">{titleOf(solution)}</Words>
                </Row>
              </Choose>
            </Cell>
            <Cell data-label="in hand">
              <Quantity value={solution.margin_k} kind="temperature_difference" />
            </Cell>
            <Cell data-label="chance">{inPercent(solution.chance_share)}</Cell>
            <Cell data-label="price">
              <Quantity value={solution.cost} kind="money" />
            </Cell>
            <Cell data-label="draws">
              <Quantity value={solution.electric_w} kind="electric_power" />
            </Cell>
            <Cell data-label="face">
              <Quantity value={solution.face_m2} kind="area" />
            </Cell>
            <Cell padding="0">
              <Button
                look="bare"
                disabled={full}
                aria-label={`Open solution ${i + 1} in the workbench`}
                onClick={(event) => {
                  event.stopPropagation();
                  onOpen(solution);
                }}
              >
                open
              </Button>
            </Cell>
          </Line>
        ))}
      </TableBody>
    </Table>
  );
}

/** One solution: its parts, what limits it, why its neighbours lost, and one press into the workbench. */
export function SolutionDetail({
  number,
  solution,
  full,
  onOpen,
}: {
  readonly number: number;
  readonly solution: SizedSolution;
  /** Whether the build holds no more variants. */
  readonly full: boolean;
  readonly onOpen: (solution: SizedSolution) => void;
}) {
  const { radiator, airflow, thermostat, cap } = solution.answers;
  return (
    <Box
      as="section"
      aria-label={`Solution ${number}`}
      background="sunken"
      borderRadius="soft"
      padding="4"
      marginTop="3"
    >
      <Row flexWrap="wrap" justifyContent="space-between" alignItems="flex-start" gap="3">
        <Heading>
          {number} {titleOf(solution)}
        </Heading>
        <Button look="main" disabled={full} onClick={() => onOpen(solution)}>
          Open in the workbench
        </Button>
      </Row>
      {full && (
        <Words size="small" tone="tight" display="block">
          {FULL}
        </Words>
      )}
      <Box
        as="dl"
        display="grid"
        gridTemplateColumns="96px minmax(0,1fr) auto"
        columnGap="3"
        rowGap="1"
        marginBlock="2"
      >
        {solution.parts.map((part) => (
          <Box key={part.slot} display="contents">
            <Words as="dt" tone="quiet" size="small" paddingTop="2px">
              {SLOTS[part.slot]}
            </Words>
            <Words
              as="dd"
              fontWeight={part.new ? 'strong' : 'plain'}
              tone={part.new ? 'ink' : 'quiet'}
            >
              <Sentence text={part.text} />
            </Words>
            <Words as="dd" size="small" tone={part.new ? 'ink' : 'quiet'} textAlign="right">
              <Price part={part} />
            </Words>
          </Box>
        ))}
      </Box>
      <Words display="block" marginTop="2">
        <Sentence text={solution.limit} />
      </Words>
      <Mind texts={solution.cautions} />
      <Heading marginTop="3">The four answers</Heading>
      <Box
        as="dl"
        display="grid"
        gridTemplateColumns="96px minmax(0,1fr)"
        columnGap="3"
        rowGap="1"
        marginTop="1"
      >
        {(
          [
            ['Radiator', radiator],
            ['Airflow', airflow],
            ['Thermostat', thermostat],
            ['Cap', cap],
          ] as const
        ).map(([title, answer]) => (
          <Box key={title} display="contents">
            <Words as="dt" tone="quiet" size="small" paddingTop="2px">
              {title}
            </Words>
            <Words as="dd">
              <Words fontWeight="strong">
                <Sentence text={answer.headline} />
              </Words>
              : <Sentence text={answer.sentence} />
            </Words>
          </Box>
        ))}
      </Box>
      {solution.neighbours.length > 0 && (
        <>
          <Heading marginTop="3">Why not its neighbours</Heading>
          <ul>
            {solution.neighbours.map((text) => (
              <Words as="li" key={JSON.stringify(text)} display="block" marginTop="1">
                <Sentence text={text} />
              </Words>
            ))}
          </ul>
        </>
      )}
      {solution.unsure.length > 0 && (
        <>
          <Heading marginTop="3">
            All cases stay below their limits {inDays(solution.chance_share)} (
            {inPercent(solution.chance_share)}
            ). It hangs on
          </Heading>
          <ul>
            {solution.unsure.map((text) => (
              <Words as="li" key={JSON.stringify(text)} display="block" marginTop="1">
                <Sentence text={text} />
              </Words>
            ))}
          </ul>
        </>
      )}
    </Box>
  );
}

/** What a part costs if it is new; a shroud that comes off costs nothing. */
function Price({ part }: { readonly part: SizedSolution['parts'][number] }) {
  if (!part.new) return 'stays';
  if (part.slot === 'shroud' && !part.price) return 'changed';
  if (part.unpriced && !part.price) return 'new, no price known';
  return (
    <>
      new, {part.unpriced && 'about '}
      <Quantity value={part.price} kind="money" />
    </>
  );
}
