import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { SaveFile } from '../../kit/overlay/SaveFile';
import {
  Box,
  Button,
  Heading,
  Input,
  Notice,
  Paragraph,
  Row,
  Select,
  Words,
} from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { partsFile } from '../../model/api/fit';
import forms from '../../model/api/forms.json';
import { partsQuery } from '../../model/api/queries';
import { reasonOf } from '../../model/api/transport';
import type { PartLine, PartsList } from '../../model/api/types';
import type { PartStanding } from '../../model/jobs/standing';
import { readNumber } from '../../model/units/parse';
import { useUnits } from '../../model/units/store';
import type { InJob } from './Fit';
import { useFitChoices } from './useFitChoices';
import { variantNamed } from './variantNamed';

const KINDS: Record<PartLine['kind'], string> = {
  buy: 'To buy',
  material: 'Materials',
  move: 'Moves over to the new part',
  adapt: 'To be made to fit',
  tool: 'To have at hand',
  keep: 'Stays as it is',
};
const ORDER = ['buy', 'material', 'adapt', 'move', 'tool', 'keep'] as const;
const STATES = { to_get: 'to get', here: 'here', fitted: 'fitted' } as const;
const MOST_PAID = forms.JobEntry.price[1] ?? 0;
const WANTED = new Set<PartLine['kind']>(['buy', 'material', 'tool']);
const UNTOUCHED: PartStanding = { state: 'to_get', price: null, priced: [] };
const PAID = new Set<PartLine['kind']>(['buy', 'material']);

/** Parts and materials of the job, ticked off in the shop, with what they cost. */
export function Parts(of: InJob) {
  const { build, variant, school, job } = of;
  const answer = useQuery(partsQuery(build, variant, school));
  const currency = useUnits((u) => u.units.currency ?? '');
  const hand = useFitChoices((s) => s.hand);
  const list = answer.data;
  if (!list)
    return (
      <Paragraph paddingBlock="4">
        {answer.isError ? `There is no list: ${reasonOf(answer.error)}` : 'Listing…'}
      </Paragraph>
    );
  const standing = job.standing.parts;
  const planned = job.standing.plan?.variant ?? variant;
  const marked = Object.keys(standing).length > 0;
  const spent = sumOf(list, standing);
  const left = list.lines.filter(
    (line) => WANTED.has(line.kind) && (standing[line.id]?.state ?? 'to_get') === 'to_get',
  ).length;

  const dear = list.lines
    .filter((line) => list.unpriced?.includes(line.title) && standing[line.id]?.price == null)
    .map((line) => line.title.toLowerCase());

  const asFile = () => {
    const noted = Object.fromEntries(
      Object.entries(standing).map(([id, { state, price }]) => [id, { state, paid: price }]),
    );
    return partsFile({ build: { ...build, drives: [] }, variant, school, noted }, currency);
  };

  return (
    <Box paddingBlock="2" maxWidth="1000px">
      <Row flexWrap="wrap" gap="4" justifyContent="space-between">
        <Paragraph>
          <Words size="large">
            <Quantity value={spent} kind="money" />
          </Words>{' '}
          <Words tone="quiet">
            in all; {left === 0 ? 'nothing left to get' : `${left} to get`}. By the list: only what
            is bad <Quantity value={list.totals.bad} kind="money" />, usual{' '}
            <Quantity value={list.totals.usual} kind="money" />, all{' '}
            <Quantity value={list.totals.all} kind="money" />.
            {dear.length > 0 && ` Without ${dear.join(', ')}: no price is known.`}
          </Words>
        </Paragraph>
        <Row gap="2" data-print="no">
          <SaveFile name={`${build.name} parts.csv`} type="text/csv" make={asFile}>
            CSV
          </SaveFile>
          <Button onClick={() => window.print()}>Print</Button>
        </Row>
      </Row>
      {planned !== variant && marked && (
        <Notice kind="tight" paddingInline="3" marginTop="2">
          <Words>
            What is here, fitted or paid was noted in a job for {variantNamed(build, planned)}: look
            whether it is the part that is meant here.
          </Words>
        </Notice>
      )}
      {ORDER.map((kind) => {
        const lines = list.lines.filter((line) => line.kind === kind);
        if (lines.length === 0) return null;
        return (
          <Box as="section" key={kind} aria-label={KINDS[kind]} marginTop="4">
            <Heading>{KINDS[kind]}</Heading>
            <ul>
              {lines.map((line) => (
                <Line
                  key={line.id}
                  line={line}
                  standing={standing[line.id] ?? UNTOUCHED}
                  onState={(state) => job.add({ kind: 'part', line: line.id, state, by: hand })}
                  onPrice={(price) =>
                    job.add({
                      kind: 'part',
                      line: line.id,
                      state: standing[line.id]?.state ?? 'to_get',
                      price,
                      by: hand,
                    })
                  }
                  onUnpaid={() => {
                    const { state, priced } = standing[line.id] ?? UNTOUCHED;
                    for (const id of priced) job.takeBack(id);
                    // What was said of its state in the same breath stays.
                    job.add({ kind: 'part', line: line.id, state, by: hand });
                  }}
                />
              ))}
            </ul>
          </Box>
        );
      })}
      <Paragraph size="small" tone="quiet" marginTop="4">
        Prices are the shelf’s, or rough figures that are marked so; write down what you pay.
      </Paragraph>
    </Box>
  );
}

/** What it all costs: what was paid where that is known, else the figure of the list. */
function sumOf(list: PartsList, standing: Readonly<Record<string, PartStanding>>): number {
  return list.lines.reduce((sum, line) => sum + (standing[line.id]?.price ?? line.price ?? 0), 0);
}

function Line({
  line,
  standing,
  onState,
  onPrice,
  onUnpaid,
}: {
  readonly line: PartLine;
  readonly standing: PartStanding;
  readonly onState: (state: PartStanding['state']) => void;
  readonly onPrice: (price: number) => void;
  readonly onUnpaid: () => void;
}) {
  const [text, setText] = useState<string | null>(null);
  const wanted = WANTED.has(line.kind);
  const price = standing.price ?? line.price ?? null;
  const typed = text === null ? null : readNumber(text);
  const wrong = typed !== null && text?.trim() !== '' && !(typed >= 0 && typed <= MOST_PAID);
  return (
    <Box
      as="li"
      display="grid"
      gridTemplateColumns={{
        base: 'minmax(0,1fr) auto',
        md: 'minmax(0,1fr) 132px 170px',
      }}
      gap="2"
      alignItems="center"
      borderTop="1px solid"
      borderColor="rule"
      paddingBlock="2"
      data-line={line.id}
    >
      <Box gridRow={{ base: '1 / span 2', md: '1' }}>
        <Words display="block" fontWeight="firm">
          {line.title}, <Sentence text={line.amount} />
        </Words>
        <Words size="small" tone="quiet" display="block">
          <Sentence text={line.why} />
          {line.source ? ` Price: ${standing.price === null ? line.source : 'paid'}.` : ''}
        </Words>
      </Box>
      {wanted ? (
        <Select
          aria-label={`${line.title}: state`}
          width="132px"
          value={standing.state}
          onChange={(event) => onState(event.target.value as PartStanding['state'])}
        >
          {Object.entries(STATES).map(([id, words]) => (
            <option key={id} value={id}>
              {words}
            </option>
          ))}
        </Select>
      ) : (
        <span />
      )}
      {price !== null || PAID.has(line.kind) ? (
        text === null ? (
          <Button
            look="bare"
            justifySelf="end"
            gridColumn={{ base: '2', md: '3' }}
            onClick={() => setText(price === null ? '' : String(price))}
            aria-label={`${line.title}: what was paid`}
          >
            {price === null ? (
              'price?'
            ) : (
              <Quantity value={price} kind={standing.price === null ? 'money' : 'price'} />
            )}
          </Button>
        ) : (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              if (typed === null || wrong || text.trim() === '') return;
              onPrice(typed);
              setText(null);
            }}
          >
            <Row gap="1" justifyContent="flex-end">
              <Input
                autoFocus
                width="84px"
                aria-label={`${line.title}: price paid`}
                aria-invalid={wrong || undefined}
                inputMode="decimal"
                value={text}
                onChange={(event) => setText(event.target.value)}
                onKeyDown={(event) => {
                  if (event.key === 'Escape') setText(null);
                }}
              />
              <Button type="submit" disabled={wrong}>
                Paid
              </Button>
            </Row>
            {standing.price !== null && (
              <Button
                look="bare"
                onClick={() => {
                  onUnpaid();
                  setText(null);
                }}
              >
                not paid after all
              </Button>
            )}
            {wrong && (
              <Words role="alert" size="small" tone="fails" display="block">
                A number from 0 to {MOST_PAID}.
              </Words>
            )}
          </form>
        )
      ) : (
        <span />
      )}
    </Box>
  );
}
