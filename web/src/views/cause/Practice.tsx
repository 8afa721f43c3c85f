import { useMutation, useQuery } from '@tanstack/react-query';
import { useEffect, useMemo, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Labelled } from '../../kit/field/Labelled';
import {
  Box,
  Button,
  Grid,
  Heading,
  Input,
  Notice,
  Paragraph,
  Row,
  Select,
  Title,
  Words,
} from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { practiceCar, practiceDebrief, practiceLook } from '../../model/api/cause';
import { cardsQuery, diagnosisQuery } from '../../model/api/queries';
import type {
  PracticeCar,
  PracticeDebrief,
  PracticeFound,
  PracticeOf,
} from '../../model/api/types';
import { standingOf } from '../../model/cases/standing';
import { counted } from '../../model/words/counted';
import { Causes } from './Causes';
import { NextTest } from './NextTest';

const DIFFICULTIES = { one: 'one fault', two: 'two faults', three: 'three faults' } as const;
const MOST_SEED = 999_999;
const FOUND = 'ebbrin.practice';
const NOTHING = standingOf([]);

/** A hidden car to practise on: the same screens, and each look costs. Who has the same number has the same car. */
export function Practice() {
  const [query, setQuery] = useSearchParams();
  useEffect(() => {
    document.title = 'Practise – Ebbrin';
  }, []);
  const seed = Number(query.get('car'));
  const difficulty = query.get('faults') ?? 'one';
  const known =
    Number.isInteger(seed) &&
    seed >= 1 &&
    seed <= MOST_SEED &&
    Object.hasOwn(DIFFICULTIES, difficulty);
  const of = known ? { seed, difficulty: difficulty as PracticeOf['difficulty'] } : null;
  return (
    <>
      <Title textStyle="huge">Practise</Title>
      <Paragraph tone="quiet" marginBlock="2" maxWidth="640px">
        A demo car comes in with hidden faults. Look at what you like: minutes, money and danger
        count. Its instruments err as real ones do. Then name what is wrong.
      </Paragraph>
      <Begin key={query.toString()} of={of} onBegin={(next) => setQuery(next)} />
      {!known && (query.has('car') || query.has('faults')) && (
        <Paragraph role="alert" tone="fails">
          No car comes in at this address: a car is a number from 1 to {MOST_SEED}, with one, two or
          three faults. Choose one above.
        </Paragraph>
      )}
      {of && <Played key={`${of.seed} ${of.difficulty}`} of={of} />}
    </>
  );
}

function Begin({
  of,
  onBegin,
}: {
  readonly of: PracticeOf | null;
  readonly onBegin: (query: { car: string; faults: string }) => void;
}) {
  const [car, setCar] = useState(of ? String(of.seed) : '');
  const [faults, setFaults] = useState<string>(of?.difficulty ?? 'one');
  const number = car.trim() === '' ? null : Number(car);
  const wrong =
    number !== null && !(Number.isInteger(number) && number >= 1 && number <= MOST_SEED);
  const random = () => String(1 + Math.floor(Math.random() * MOST_SEED));
  return (
    <Row flexWrap="wrap" gap="2" marginBottom="4" alignItems="end">
      <Labelled quiet label="What is hidden" width="auto" alignSelf="start">
        <Select value={faults} onChange={(event) => setFaults(event.target.value)}>
          {Object.entries(DIFFICULTIES).map(([value, words]) => (
            <option key={value} value={value}>
              {words}
            </option>
          ))}
        </Select>
      </Labelled>
      <Labelled
        quiet
        label="Number of the car"
        width="160px"
        alignSelf="start"
        wrong={wrong && `A whole number from 1 to ${MOST_SEED}.`}
      >
        <Input
          placeholder="any car"
          inputMode="numeric"
          value={car}
          onChange={(event) => setCar(event.target.value)}
        />
      </Labelled>
      <Button
        look={of ? 'plain' : 'main'}
        disabled={wrong}
        onClick={() => onBegin({ car: number === null ? random() : String(number), faults })}
      >
        Bring it in
      </Button>
      {of && (
        <Button look="bare" onClick={() => onBegin({ car: random(), faults })}>
          another car
        </Button>
      )}
    </Row>
  );
}

function keptOf(of: PracticeOf): PracticeFound[] {
  try {
    const kept = JSON.parse(sessionStorage.getItem(FOUND) ?? 'null');
    return kept?.seed === of.seed && kept?.difficulty === of.difficulty && Array.isArray(kept.found)
      ? kept.found
      : [];
  } catch {
    return [];
  }
}

function Played({ of }: { readonly of: PracticeOf }) {
  const car = useQuery({
    queryKey: ['practice', of],
    queryFn: () => practiceCar(of),
    staleTime: Number.POSITIVE_INFINITY,
  });
  if (car.isError)
    return (
      <Paragraph role="alert" tone="fails">
        The car cannot be brought in: {car.error.message}{' '}
        <Button look="bare" onClick={() => void car.refetch()}>
          Try again
        </Button>
      </Paragraph>
    );
  if (!car.data) return <Paragraph>It is being brought in…</Paragraph>;
  return <AtTheCar of={of} car={car.data} />;
}

function AtTheCar({ of, car }: { readonly of: PracticeOf; readonly car: PracticeCar }) {
  const [found, setFound] = useState(() => keptOf(of));
  const [named, setNamed] = useState<readonly string[]>([]);
  const [opened, setOpened] = useState<string | null>(null);
  useEffect(() => {
    try {
      sessionStorage.setItem(FOUND, JSON.stringify({ ...of, found }));
    } catch {
      // Then it lasts as long as the page.
    }
  }, [of, found]);
  const evidence = useMemo(
    () => ({
      complaint: car.complaint,
      ...Object.fromEntries(found.map((one) => [one.observation, one.value])),
    }),
    [car, found],
  );
  const variant = car.build.variants[0]?.id ?? null;
  const answer = useQuery(
    diagnosisQuery(car.build, { variant, evidence, order: 'telling', hourly_rate: 30 }),
  );
  const driven = answer.data?.spoken_by.state === 'model';
  const cards = useQuery(cardsQuery(car.build, variant, driven));
  const look = useMutation({
    mutationFn: (observation: string) => practiceLook({ ...of, observation }),
    onSuccess: (one) => {
      setFound((before) => [...before.filter((b) => b.observation !== one.observation), one]);
      setOpened(null);
    },
  });
  const debrief = useMutation({
    mutationFn: () =>
      practiceDebrief({ ...of, asked: found.map((one) => one.observation), causes: [...named] }),
  });
  const sum = (of_: (one: PracticeFound) => number) => found.reduce((s, one) => s + of_(one), 0);
  if (debrief.data) return <Told debrief={debrief.data} />;
  const data = answer.data;
  if (!data) return <Paragraph>{answer.isError ? answer.error.message : 'Looking…'}</Paragraph>;
  const tests = [...data.questions, ...data.next, ...data.others];
  const shown = tests.find((test) => test.observation === opened) ?? data.next[0] ?? null;
  const titles = new Map(data.causes.map((cause) => [cause.cause, cause.title]));
  const standing = { ...NOTHING, evidence, mended: named };
  return (
    <>
      <Notice paddingInline="3">
        <Words>
          <Words as="span" fontWeight="strong">
            {car.name}
          </Words>
          , car {of.seed}: <Sentence text={car.said} />.{' '}
          {counted(car.faults, 'thing is', 'things are')} wrong with it.
        </Words>
        <Words fontWeight="strong">
          {counted(
            sum((one) => one.minutes),
            'minute',
            'minutes',
          )}
          , <Quantity value={sum((one) => one.money)} kind="money" /> spent
        </Words>
      </Notice>
      {look.isError && (
        <Paragraph role="alert" tone="fails">
          It cannot be looked at: {look.error.message}
        </Paragraph>
      )}
      <Grid gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 360px' }} gap="6">
        <Box order={{ base: 2, lg: 1 }} paddingTop="3">
          <Causes
            found={data}
            standing={standing}
            naming
            onAdd={({ cause }) =>
              cause &&
              setNamed((before) =>
                before.includes(cause)
                  ? before.filter((one) => one !== cause)
                  : [...before, cause].slice(-car.faults),
              )
            }
          />
          <Heading marginTop="3">What was seen</Heading>
          <ul>
            {found.map((one) => (
              <Box as="li" key={one.observation} paddingBlock="1">
                <Words size="small">
                  <Sentence text={one.said} />
                </Words>
              </Box>
            ))}
          </ul>
          <Row marginTop="3" flexWrap="wrap">
            <Button
              look="main"
              disabled={named.length !== car.faults || debrief.isPending}
              onClick={() => debrief.mutate()}
            >
              It is this: show me
            </Button>
            <Words size="small" tone="quiet">
              {named.length === 0 && 'Open a cause and name it.'}
              {named.map((cause, n) => (
                <span key={cause}>
                  {n > 0 ? '; ' : ''}
                  <Sentence text={titles.get(cause) ?? [cause]} />
                </span>
              ))}
              {named.length > 0 &&
                named.length < car.faults &&
                `. ${counted(car.faults - named.length, 'more is', 'more are')} to be named.`}
            </Words>
          </Row>
          {debrief.isError && (
            <Paragraph role="alert" tone="fails">
              {debrief.error.message}
            </Paragraph>
          )}
        </Box>
        <Box order={{ base: 1, lg: 2 }} background="raised" padding="4">
          <Select
            aria-label="What to look at"
            marginBottom="3"
            value={shown?.observation ?? ''}
            onChange={(event) => setOpened(event.target.value)}
          >
            {tests.map((test) => (
              <option key={test.observation} value={test.observation}>
                {test.question}
              </option>
            ))}
          </Select>
          <NextTest
            found={data}
            standing={standing}
            shown={shown}
            cards={cards.data ?? []}
            car="practice"
            onAdd={() => undefined}
            onOpen={setOpened}
            onLook={(observation) => !look.isPending && look.mutate(observation)}
          />
        </Box>
      </Grid>
    </>
  );
}

/** The truth, and what each look told of it. */
function Told({ debrief }: { readonly debrief: PracticeDebrief }) {
  const { right, missed, wrong, titles } = debrief;
  const inPart = !right && missed.length < titles.length;
  return (
    <Box as="section" aria-label="Debrief">
      <Words size="huge" tone={right ? 'holds' : 'fails'} display="block">
        {right ? 'Right' : inPart ? 'Right in part' : 'Not that'}: {debrief.score} of 100
      </Words>
      <Paragraph marginBlock="2">
        It was <Named titles={titles} />.{' '}
        {inPart && (
          <>
            You missed <Named titles={missed} />.{' '}
          </>
        )}
        {wrong.length > 0 && (
          <>
            You named <Named titles={wrong} />, which it was not.{' '}
          </>
        )}
        You spent {counted(Math.round(debrief.spent), 'minute’s', 'minutes’')} worth, Ebbrin’s own
        order would have spent {Math.round(debrief.best)}.
      </Paragraph>
      <Grid gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'repeat(2, minmax(0,1fr))' }} gap="6">
        <Steps title="What your looks told" steps={debrief.steps} />
        <Steps title="Ebbrin’s own order" steps={debrief.best_order} />
      </Grid>
    </Box>
  );
}

function Named({ titles }: { readonly titles: PracticeDebrief['titles'] }) {
  return titles.map((title, n) => (
    // biome-ignore lint/suspicious/noArrayIndexKey: titles never change their places
    <span key={n}>
      {n > 0 ? ' and ' : ''}“<Sentence text={title} />”
    </span>
  ));
}

function Steps({
  title,
  steps,
}: {
  readonly title: string;
  readonly steps: PracticeDebrief['steps'];
}) {
  return (
    <Box>
      <Heading>{title}</Heading>
      {steps.length === 0 && <Paragraph tone="quiet">Nothing was looked at.</Paragraph>}
      <ol>
        {steps.map((step) => (
          <Box
            as="li"
            key={step.observation}
            borderBottom="1px solid"
            borderColor="rule"
            paddingBlock="2"
          >
            <Words display="block">
              <Sentence text={step.said} />
            </Words>
            <Words
              size="small"
              tone={told(step) > 0 ? 'holds' : told(step) < 0 ? 'fails' : 'quiet'}
            >
              {told(step) > 0 ? 'led to it' : told(step) < 0 ? 'led away' : 'told little'}:{' '}
              {percent(step.before)} before, {percent(step.after)} after;{' '}
              {counted(Math.round(step.cost), 'minute’s', 'minutes’')} worth
            </Words>
          </Box>
        ))}
      </ol>
    </Box>
  );
}

/** What a look told of the truth: for it, against it, or little. */
function told({ before, after }: PracticeDebrief['steps'][number]): number {
  return after > before * 1.2 ? 1 : after < before / 1.2 ? -1 : 0;
}

/** Below a tenth with its decimal: what rose or fell must not read alike. */
const percent = (chance: number) =>
  chance >= 0.95 ? 'as good as certain' : `${(chance * 100).toFixed(chance < 0.1 ? 1 : 0)} %`;
