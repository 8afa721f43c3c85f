import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Fold } from '../../kit/page/Fold';
import {
  Box,
  Button,
  Grid,
  Heading,
  Input,
  Paragraph,
  Row,
  Title,
  Words,
} from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import type { CauseTest, Diagnosis, TestCard } from '../../model/api/types';
import type { NewFinding } from '../../model/cases/kept';
import type { Standing } from '../../model/cases/standing';
import { editable } from '../../model/units/format';
import { parseQuantity } from '../../model/units/parse';
import { kinds, shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import { MendAndProve } from './MendAndProve';
import { Picture } from './Picture';
import { forgetTimer, Timer } from './Timer';

const STATES = { cold: 'While it is cold', running: 'With the engine running', any: 'At any time' };
const DANGERS = ['no danger', 'with care', 'hot or moving parts', 'cold engine only'];

/** The next test as a card to work from, its answers as buttons; what comes after it; and mending, once it is sure. */
export function NextTest({
  found,
  standing,
  shown,
  cards,
  car,
  onAdd,
  onOpen,
  onLook,
}: {
  readonly found: Diagnosis;
  readonly standing: Standing;
  readonly shown: CauseTest | null;
  readonly cards: readonly TestCard[];
  /** Whose timers run. */
  readonly car: string;
  readonly onAdd: (finding: NewFinding) => void;
  readonly onOpen: (observation: string) => void;
  /** In practice the car itself answers. */
  readonly onLook?: ((observation: string) => void) | undefined;
}) {
  const told = 'complaint' in standing.evidence || Object.keys(standing.evidence).length > 1;
  return (
    <Box as="section" aria-label="Next test">
      {!onLook && <MendAndProve found={found} standing={standing} onAdd={onAdd} />}
      {!told && (
        <Paragraph tone="quiet" marginBottom="3">
          Tell what is wrong first, then a test is worth more. This one would tell most as it is:
        </Paragraph>
      )}
      {shown ? (
        <Shown
          key={shown.observation}
          test={shown}
          card={cards.find((card) => card.observation === shown.observation)}
          timer={`${car}.${shown.observation}`}
          onAdd={onAdd}
          onLook={onLook}
        />
      ) : (
        <Paragraph>Nothing is left to look at.</Paragraph>
      )}
      {found.groups.map((group) => (
        <Box key={group.state} marginTop="4">
          <Heading>{STATES[group.state]}</Heading>
          <ul>
            {group.observations.map((name) => {
              const test = found.next.find((one) => one.observation === name);
              if (!test || name === shown?.observation) return null;
              return (
                <Box as="li" key={name}>
                  <Button
                    look="bare"
                    paddingInline="0"
                    whiteSpace="normal"
                    textAlign="left"
                    onClick={() => onOpen(name)}
                  >
                    {test.question}
                  </Button>
                  <Words size="small" tone="quiet" display="block">
                    {test.why}
                  </Words>
                </Box>
              );
            })}
          </ul>
        </Box>
      ))}
    </Box>
  );
}

function Shown({
  test,
  card,
  timer,
  onAdd,
  onLook,
}: {
  readonly test: CauseTest;
  readonly card: TestCard | undefined;
  readonly timer: string;
  readonly onAdd: (finding: NewFinding) => void;
  readonly onLook: ((observation: string) => void) | undefined;
}) {
  const [read, setRead] = useState<Readonly<Record<string, string>>>({});
  const [note, setNote] = useState('');
  const units = useUnits((choice) => choice.units);
  const unitOf = (quantity: string) =>
    quantity in kinds ? shownUnit(quantity, units).symbol : quantity;
  const parsed = (quantity: string, text: string) =>
    text.trim() !== '' && quantity in kinds ? parseQuantity(text, quantity, units) : null;
  const wrong = (quantity: string, text: string) => {
    const found = parsed(quantity, text);
    return found && !found.ok ? found.message : null;
  };
  // What was typed in another unit is kept in the reader's, so that the figure and its unit belong together.
  const figure = (quantity: string, text: string) => {
    const found = parsed(quantity, text);
    return found?.ok ? editable(found.value, quantity, units) : text.trim();
  };
  const readings = (card?.read ?? []).filter(({ name }) => (read[name] ?? '').trim() !== '');
  const answer = (value: string) => {
    forgetTimer(timer);
    onAdd({
      kind: 'seen',
      observation: test.observation,
      value,
      measured: readings
        .map(({ name, quantity }) =>
          `${name} ${figure(quantity, read[name] ?? '')} ${unitOf(quantity)}`.trim(),
        )
        .join(', ')
        .slice(0, 400),
      note: note.trim(),
    });
  };
  const any = readings.some(({ name, quantity }) => wrong(quantity, read[name] ?? '') !== null);
  return (
    <Box data-test={test.observation}>
      <Words size="small" tone="quiet" display="block">
        {test.kind === 'story' ? 'From the seat' : 'Next'}, {minutes(test.minutes)},{' '}
        {test.tools || 'no tools'},{' '}
        <Words as="span" size="small" tone={test.danger > 1 ? 'fails' : 'quiet'}>
          {DANGERS[test.danger]}
        </Words>
      </Words>
      <Title>{test.question}</Title>
      <Paragraph marginBlock="1">{test.why}</Paragraph>
      {card && (
        <>
          <Picture name={card.picture} />
          {card.caution && (
            <Paragraph size="small" tone="fails" fontWeight="firm" marginTop="2">
              <Sentence text={card.caution} />
            </Paragraph>
          )}
          <Box as="ol" listStyleType="decimal" paddingLeft="6" marginBlock="2">
            {card.steps.map((step, n) => (
              // biome-ignore lint/suspicious/noArrayIndexKey: steps never change their places
              <Box as="li" key={n} paddingBlock="1">
                <Words>
                  <Sentence text={step} />
                </Words>
              </Box>
            ))}
          </Box>
          {card.timer_minutes && !onLook && <Timer name={timer} minutes={card.timer_minutes} />}
          <Paragraph size="small">
            <Words size="small" fontWeight="strong" tone="holds">
              Good:
            </Words>{' '}
            <Sentence text={card.good} />
          </Paragraph>
          {card.read.length > 0 && !onLook && (
            <Grid gridTemplateColumns="repeat(2, minmax(0,1fr))" gap="2" marginTop="2">
              {card.read.map(({ name, quantity }) => (
                <ReadingField
                  key={name}
                  name={name}
                  unit={unitOf(quantity)}
                  text={read[name] ?? ''}
                  wrong={wrong(quantity, read[name] ?? '')}
                  onChange={(text) => setRead({ ...read, [name]: text })}
                />
              ))}
            </Grid>
          )}
        </>
      )}
      {onLook ? (
        <Button look="main" width="100%" marginTop="3" onClick={() => onLook(test.observation)}>
          {test.kind === 'story' ? 'Ask the driver' : 'Do it'}: {minutes(test.minutes)}
        </Button>
      ) : (
        <Grid gridTemplateColumns="repeat(auto-fit, minmax(132px,1fr))" gap="2" marginTop="3">
          {test.values.map(({ value, words }) => (
            <Button
              key={value}
              minHeight="56px"
              whiteSpace="normal"
              borderColor="edge"
              disabled={any}
              data-value={value}
              onClick={() => answer(value)}
            >
              <Sentence text={words} />
            </Button>
          ))}
        </Grid>
      )}
      {card && <Meanings card={card} test={test} />}
      {!onLook && (
        <Row flexWrap="wrap" gap="2" marginTop="1">
          <Button
            look="bare"
            paddingInline="0"
            onClick={() =>
              onAdd({ kind: 'seen', observation: test.observation, value: 'not_looked' })
            }
          >
            can’t look
          </Button>
          <Fold
            flex="1 1 160px"
            title={
              <Words tone="accent" fontWeight="firm">
                note
              </Words>
            }
          >
            <Input
              aria-label="Note to this test"
              value={note}
              maxLength={2000}
              onChange={(event) => setNote(event.target.value)}
            />
          </Fold>
        </Row>
      )}
    </Box>
  );
}

function minutes(value: number): string {
  return value === 0 ? 'no time' : counted(value, 'minute', 'minutes');
}

function Meanings({ card, test }: { readonly card: TestCard; readonly test: CauseTest }) {
  return (
    <Fold
      marginTop="2"
      title={
        <Words size="small" tone="quiet">
          what each answer means
        </Words>
      }
    >
      <ul>
        {card.bad.map(({ value, text }) => (
          <Box as="li" key={value} paddingBlock="1">
            <Words size="small">
              <Words as="span" size="small" fontWeight="strong">
                <Sentence text={test.values.find((one) => one.value === value)?.words ?? [value]} />
                :
              </Words>{' '}
              <Sentence text={text} />
            </Words>
          </Box>
        ))}
      </ul>
    </Fold>
  );
}

function ReadingField({
  name,
  unit,
  text,
  wrong,
  onChange,
}: {
  readonly name: string;
  readonly unit: string;
  readonly text: string;
  readonly wrong: string | null;
  readonly onChange: (text: string) => void;
}) {
  return (
    <Labelled quiet label={name} unit={unit} wrong={wrong}>
      <Input
        value={text}
        inputMode="decimal"
        autoComplete="off"
        maxLength={14}
        paddingRight="52px"
        onChange={(event) => onChange(event.target.value)}
      />
    </Labelled>
  );
}
