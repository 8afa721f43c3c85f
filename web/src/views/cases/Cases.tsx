import { chakra } from '@chakra-ui/react';
import { type ComponentProps, memo, useState } from 'react';
import { Offers } from '../../kit/page/Offers';
import { Box, Button, HiddenText, Row, Words } from '../../kit/primitives';
import {
  Cell as AnyCell,
  Column,
  Table,
  TableBody,
  TableHead,
  TableRow,
} from '../../kit/table/Table';
import { tone } from '../../kit/theme/temperature';
import { Chance } from '../../kit/words/Chance';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { Term } from '../../kit/words/Term';
import { VerdictMark } from '../../kit/words/VerdictMark';
import type { CaseResult, Evaluation } from '../../model/api/types';
import { type CaseKind, caseKinds } from '../../model/document/kinds';
import { usePlaces } from '../../model/places';
import { useSession } from '../../model/save/context';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { inDays } from '../../model/words/days';
import { boundOf, hottest } from '../../model/words/hottest';

const Head = (props: ComponentProps<typeof Column>) => (
  <Column textAlign="right" padding="2" whiteSpace="nowrap" {...props} />
);
const Cell = (props: ComponentProps<typeof AnyCell>) => (
  <AnyCell
    textStyle="strong"
    fontWeight="firm"
    textAlign={{ base: 'left', md: 'right' }}
    paddingInline="2"
    paddingBlock={{ base: '0', md: '1' }}
    verticalAlign="top"
    whiteSpace="nowrap"
    {...props}
  />
);
const CaseRow = chakra(TableRow, {
  base: {
    position: 'relative',
    height: { base: 'auto', md: '52px' },
    paddingInline: { base: '1', md: '0' },
    cursor: 'pointer',
    _hover: { background: 'accentSoft' },
    _selected: { background: 'raised', boxShadow: 'inset 4px 0 0 {colors.accent}' },
  },
});
const RowButton = chakra('button', {
  base: {
    background: 'none',
    border: 'none',
    padding: '0',
    textAlign: 'left',
    cursor: 'pointer',
    width: '100%',
    whiteSpace: 'normal',
    display: 'block',
    minHeight: 'target',
  },
});

/** Columns that a tablet has no room for. */
const roomy = { display: { base: 'block', md: 'none', lg: 'table-cell' } } as const;

interface Props {
  readonly evaluation: Evaluation;
  readonly shownId: string;
  readonly onShow: (id: string) => void;
  readonly onEdit: (id: string) => void;
  readonly onAdd: (kind: CaseKind) => void;
  readonly onRows: () => void;
}

/** Every duty case as a row, the worst first. */
export const Cases = memo(function Cases({
  evaluation,
  shownId,
  onShow,
  onEdit,
  onAdd,
  onRows,
}: Props) {
  const units = useUnits((u) => u.units);
  const samples = useSession((s) =>
    s.further?.build === s.asked ? s.further.sure?.samples : null,
  );
  const unsure = useSession((s) =>
    s.further?.build === s.asked && s.further.unsure
      ? `How sure this is cannot be said: ${s.further.unsure}`
      : null,
  );
  const unit = (name: string) => shownUnit(name, units).symbol;
  return (
    <Box as="section" aria-label="Duty cases">
      <Table kind="bare" stack="md" tableLayout="fixed" marginTop="0">
        <TableHead>
          <tr>
            <Head textAlign="left" paddingLeft={{ base: '3', lg: '6' }}>
              Case
            </Head>
            <Head width="66px">heat {unit('power')}</Head>
            <Head width="82px" {...roomy}>
              air {unit('airflow')}
            </Head>
            <Head width="84px" {...roomy}>
              flow {unit('coolant_flow')}
            </Head>
            <Head width="86px">top hose {unit('temperature')}</Head>
            <Head width="88px">
              <Term name="spare">air to spare {unit('temperature_difference')}</Term>
            </Head>
            <Head width="96px" textAlign="left" paddingLeft="3">
              verdict
            </Head>
            <Head width="60px">
              <HiddenText>Editor</HiddenText>
            </Head>
          </tr>
        </TableHead>
        <TableBody>
          {evaluation.cases.map((entry) => (
            <CaseRow
              key={entry.id}
              data-selected={entry.id === shownId || undefined}
              onClick={() => onShow(entry.id)}
            >
              <CaseCells entry={entry} shown={entry.id === shownId} onEdit={onEdit} />
            </CaseRow>
          ))}
        </TableBody>
      </Table>
      <Row
        marginLeft={{ base: '1', lg: '4' }}
        paddingRight="4"
        flexWrap="wrap"
        justifyContent="space-between"
        alignItems="center"
      >
        <Row gap="0" alignItems="flex-start">
          <Button look="bare" title="D" onClick={onRows}>
            edit as rows
          </Button>
          <AddCase onAdd={onAdd} />
        </Row>
        <Words size="small" tone="quiet" aria-live="polite" textAlign="right">
          All cases stay below their limits{' '}
          <Words as="b" size="small" tone="ink">
            {inDays(evaluation.chance)}
          </Words>
          {', '}
          {unsure ??
            (samples
              ? `by ${samples} samples of what is guessed or scatters.`
              : 'by a first estimate; samples are on their way.')}
        </Words>
      </Row>
    </Box>
  );
});

/** A case of one of a few kinds, whose values are then open to change. */
export function AddCase({ onAdd }: { readonly onAdd: (kind: CaseKind) => void }) {
  const [open, setOpen] = useState(false);
  return (
    <Row gap="0" flexWrap="wrap">
      <Button look="bare" aria-expanded={open} onClick={() => setOpen(!open)}>
        + case
      </Button>
      {open && (
        <Offers
          label="Kinds of case"
          of={caseKinds}
          onTake={(kind) => {
            setOpen(false);
            onAdd(kind);
          }}
        />
      )}
    </Row>
  );
}

function CaseCells({
  entry,
  shown,
  onEdit,
}: {
  readonly entry: CaseResult;
  readonly shown: boolean;
  readonly onEdit: (id: string) => void;
}) {
  const places = usePlaces();
  const units = useUnits((u) => u.units);
  const unit = (name: string) => shownUnit(name, units).symbol;
  const hot = hottest(entry);
  return (
    <>
      <Cell
        gridColumn="1 / -1"
        textAlign="left"
        whiteSpace="normal"
        paddingLeft={{ base: '2', md: '3', lg: '6' }}
        paddingBlock="1"
      >
        <RowButton aria-pressed={shown} aria-label={`Show ${entry.name} in the loop`}>
          <Words size="strong" display="block" paddingRight={{ base: '10', md: '0' }}>
            {entry.name}
          </Words>
          <Words
            size="small"
            tone={entry.verdict === 'holds' ? 'quiet' : entry.verdict}
            display="block"
            width={{ base: '100%', md: 'max(100%, 400px)', lg: 'max(100%, 490px)' }}
          >
            <Sentence text={entry.sentence ?? []} />
            {shown && entry.detail && entry.detail.length > 0 && (
              <Words size="small" tone="quiet" display="block">
                <Sentence text={entry.detail} />
              </Words>
            )}
          </Words>
        </RowButton>
        {shown && entry.verdict === 'fails' && (
          <Button
            look="bare"
            paddingInline="0"
            onClick={(event) => {
              event.stopPropagation();
              places.to('cause');
            }}
          >
            Is it so on the road? Find the cause
          </Button>
        )}
      </Cell>
      <Cell data-label={`heat ${unit('power')}`}>
        <Quantity value={entry.heat_kw} kind="power" bare />
      </Cell>
      <Cell data-label={`air ${unit('airflow')}`} {...roomy}>
        <Quantity value={entry.air_flow_m3_per_s} kind="airflow" bare />
      </Cell>
      <Cell data-label={`flow ${unit('coolant_flow')}`} {...roomy}>
        <Quantity value={entry.coolant_flow_l_per_min} kind="coolant_flow" bare />
      </Cell>
      <Cell data-label={`top hose ${unit('temperature')}`}>
        <Words size="strong" display="inline-flex" alignItems="center" gap="2" fontWeight="firm">
          <Box
            as="span"
            width="5px"
            height="18px"
            borderRadius="round"
            style={{ background: tone(hot) }}
          />
          <span>
            {boundOf(entry)}
            <Quantity value={hot} kind="temperature" bare none="no end" />
          </span>
        </Words>
      </Cell>
      <Cell data-label={`air to spare ${unit('temperature_difference')}`}>
        <Quantity value={entry.ambient_margin_k} kind="temperature_difference" bare none="–" />
      </Cell>
      <Cell data-label="verdict" textAlign="left" paddingLeft={{ base: '2', md: '3' }}>
        <Box display="flex" flexDirection="column" alignItems="flex-start">
          <VerdictMark verdict={entry.verdict} />
          <Chance value={entry.chance} verdict={entry.verdict} of={entry.name} />
        </Box>
      </Cell>
      <Cell position={{ base: 'absolute', md: 'static' }} top="1" right="1" paddingBlock="0">
        <Button
          look="bare"
          aria-label={`Edit ${entry.name}`}
          onClick={(event) => {
            event.stopPropagation();
            onEdit(entry.id);
          }}
        >
          edit
        </Button>
      </Cell>
    </>
  );
}
