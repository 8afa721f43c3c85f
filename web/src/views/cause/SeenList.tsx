import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Fold } from '../../kit/page/Fold';
import { Way } from '../../kit/page/Way';
import { TakePhoto } from '../../kit/photos/Photos';
import { Box, Button, Input, Paragraph, Row, Select, Title, Words } from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import type { Answered, CaseFinding, CauseTest, Diagnosis, TestOrder } from '../../model/api/types';
import { useCases } from '../../model/cases/kept';
import { casesOf } from '../../model/cases/shown';
import type { Standing } from '../../model/cases/standing';
import { readNumber } from '../../model/units/parse';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import { CaseLog } from './CaseLog';
import type { Asked, Offer } from './Cause';
import type { useCase } from './useCase';

const ORDERS: Record<TestOrder, string> = {
  telling: 'most telling for its time',
  cheapest: 'cheapest first',
  gauge: 'gauge first',
  pressure: 'pressure first',
};

/** What was seen, each to be changed or taken back; what the driver can tell; and what else could be said. */
export function SeenList({
  found,
  standing,
  kept,
  buildId,
  Offered,
  asked,
  onAsk,
  onOpen,
}: {
  readonly found: Diagnosis;
  readonly standing: Standing;
  readonly kept: ReturnType<typeof useCase>;
  readonly buildId: string | null;
  readonly Offered: Offer | undefined;
  readonly asked: Asked;
  readonly onAsk: (asked: Asked) => void;
  readonly onOpen: (observation: string) => void;
}) {
  const seen = found.seen.filter((one) => one.observation !== 'judged_by_build');
  const made = seen.filter((one) => one.value !== null);
  const left = seen.filter((one) => one.value === null);
  return (
    <Box as="section" aria-label="What was seen">
      <Title>What was seen</Title>
      <CasePicker kept={kept} buildId={buildId} standing={standing} />
      {Offered && !('complaint' in standing.evidence) && <Offered onAdd={kept.add} />}
      <Box as="ul" marginTop="2">
        {made.map((one) => (
          <SeenLine
            key={one.observation}
            one={one}
            last={lastSaid(kept.shown?.entries ?? [], one.observation)}
            onAdd={kept.add}
          />
        ))}
      </Box>
      {left.length > 0 && (
        <Fold
          marginTop="1"
          title={
            <Words size="small" tone="quiet">
              {counted(left.length, 'thing', 'things')} nobody looked at
            </Words>
          }
        >
          <ul>
            {left.map((one) => (
              <SeenLine key={one.observation} one={one} onAdd={kept.add} />
            ))}
          </ul>
        </Fold>
      )}
      {found.questions.length > 0 && (
        <Box marginTop="3">
          {found.questions.map((test) => (
            <Question key={test.observation} test={test} onAdd={kept.add} />
          ))}
        </Box>
      )}
      <WhatElse found={found} onOpen={onOpen} />
      <Box marginTop="4">
        <Labelled quiet label="Order of tests">
          <Select
            value={asked.order}
            onChange={(event) => onAsk({ ...asked, order: event.target.value as TestOrder })}
          >
            {Object.entries(ORDERS).map(([order, words]) => (
              <option key={order} value={order}>
                {words}
              </option>
            ))}
          </Select>
        </Labelled>
        <HourlyRate asked={asked} onAsk={onAsk} />
      </Box>
      {buildId !== null && (
        <Row gap="1" data-print="no">
          <Words size="small" tone="quiet">
            Worth keeping as it looks?
          </Words>
          <TakePhoto
            label="Photo of what was seen"
            onTaken={(photo) => kept.add({ kind: 'note', photo })}
          />
        </Row>
      )}
      <CaseLog found={found} findings={kept.shown?.entries ?? []} />
      <Box marginTop="4" borderTop="2px solid" borderColor="fails" paddingTop="2">
        <Way to="/road" color="fails">
          It boils right now?
        </Way>
        <Paragraph size="small">Heater full, pull over, engine off, leave the cap alone.</Paragraph>
      </Box>
    </Box>
  );
}

const MOST_WORTH = 100000;

function HourlyRate({
  asked,
  onAsk,
}: {
  readonly asked: Asked;
  readonly onAsk: (a: Asked) => void;
}) {
  const [text, setText] = useState(String(asked.hourlyRate));
  const rate = readNumber(text);
  const currency = useUnits((u) => u.units.currency) || undefined;
  const wrong = text.trim() === '' || !(rate > 0 && rate <= MOST_WORTH);
  return (
    <Labelled
      quiet
      label="An hour is worth"
      beside={
        currency && (
          <Words size="small" tone="quiet" alignSelf="center">
            {currency}
          </Words>
        )
      }
      wrong={wrong && `A number above 0, ${MOST_WORTH} at most.`}
      marginTop="2"
    >
      <Input
        width="88px"
        inputMode="decimal"
        value={text}
        onChange={(event) => {
          setText(event.target.value);
          const next = readNumber(event.target.value);
          if (next > 0 && next <= MOST_WORTH) onAsk({ ...asked, hourlyRate: next });
        }}
      />
    </Labelled>
  );
}

type Add = ReturnType<typeof useCase>['add'];

function lastSaid(findings: readonly CaseFinding[], observation: string) {
  return [...findings]
    .reverse()
    .find((made) => made.kind === 'seen' && made.observation === observation);
}

function SeenLine({
  one,
  last,
  onAdd,
}: {
  readonly one: Answered;
  /** The finding that says it, with what was read and noted. */
  readonly last?: CaseFinding | undefined;
  readonly onAdd: Add;
}) {
  const [changing, setChanging] = useState(false);
  return (
    <Box as="li" borderBottom="1px solid" borderColor="rule" paddingBlock="1">
      <Row justifyContent="space-between" gap="2">
        <Words>
          <Sentence text={one.said} />
          {(last?.measured || last?.note) && (
            <Words size="small" tone="quiet" display="block">
              {[last.measured, last.note].filter(Boolean).join(' · ')}
            </Words>
          )}
        </Words>
        <Button
          look="bare"
          aria-expanded={changing}
          aria-label={`Change: ${one.question}`}
          onClick={() => setChanging(!changing)}
        >
          change
        </Button>
      </Row>
      {changing && (
        <Row flexWrap="wrap" gap="2" paddingBottom="2">
          {one.values
            .filter((value) => value.value !== one.value)
            .map((value) => (
              <Button
                key={value.value}
                onClick={() => {
                  onAdd({ kind: 'seen', observation: one.observation, value: value.value });
                  setChanging(false);
                }}
              >
                <Sentence text={value.words} />
              </Button>
            ))}
          <Button
            look="bare"
            onClick={() => onAdd({ kind: 'taken_back', observation: one.observation })}
          >
            take it back
          </Button>
        </Row>
      )}
    </Box>
  );
}

function Question({ test, onAdd }: { readonly test: CauseTest; readonly onAdd: Add }) {
  const { observation } = test;
  return (
    <Box as="fieldset" marginBottom="3">
      <Box as="legend" paddingBottom="1">
        <Words size="strong">{test.question}</Words>
      </Box>
      <Row flexWrap="wrap" gap="2">
        {test.values.map(({ value, words }) => (
          <Button
            key={value}
            paddingInline="3"
            onClick={() => onAdd({ kind: 'seen', observation, value })}
          >
            <Sentence text={words} />
          </Button>
        ))}
        <Button
          look="bare"
          onClick={() => onAdd({ kind: 'seen', observation, value: 'not_looked' })}
        >
          can’t tell
        </Button>
      </Row>
    </Box>
  );
}

function WhatElse({
  found,
  onOpen,
}: {
  readonly found: Diagnosis;
  readonly onOpen: (observation: string) => void;
}) {
  return (
    <Box marginTop="3">
      <Select
        aria-label="What else was seen"
        value=""
        onChange={(event) => event.target.value && onOpen(event.target.value)}
      >
        <option value="">+ what else was seen</option>
        {[...found.questions, ...found.next, ...found.others].map((test) => (
          <option key={test.observation} value={test.observation}>
            {test.question}
          </option>
        ))}
      </Select>
    </Box>
  );
}

function CasePicker({
  kept,
  buildId,
  standing,
}: {
  readonly kept: ReturnType<typeof useCase>;
  readonly buildId: string | null;
  readonly standing: Standing;
}) {
  const cases = casesOf(
    useCases((s) => s.journals),
    buildId,
  );
  if (!kept.shown)
    return (
      <Paragraph size="small" tone="quiet">
        Tell what is wrong: a case begins by itself, and is kept.
      </Paragraph>
    );
  const day = (iso: string) => new Date(iso).toLocaleDateString([], { dateStyle: 'medium' });
  return (
    <Row gap="1" flexWrap="wrap">
      {cases.length === 1 ? (
        <Words size="small" tone="quiet">
          case of {day(kept.shown.createdAt)}
          {standing.closed ? ', closed' : ''}
        </Words>
      ) : (
        <Select
          aria-label="Case"
          width="auto"
          value={kept.shown.id}
          onChange={(event) => kept.choose(event.target.value)}
        >
          {cases.map((one, n) => (
            <option key={one.id} value={one.id}>
              case {cases.length - n}, {day(one.createdAt)}
            </option>
          ))}
        </Select>
      )}
      <Button look="bare" onClick={kept.begin}>
        new case
      </Button>
      {standing.closed && (
        <Button look="bare" onClick={() => kept.add({ kind: 'opened' })}>
          open it again
        </Button>
      )}
    </Row>
  );
}
