import { useQuery } from '@tanstack/react-query';
import { type ComponentType, useEffect, useMemo, useState } from 'react';
import { Way } from '../../kit/page/Way';
import { Box, Grid, Notice, Paragraph, Words } from '../../kit/primitives';
import { cardsQuery, diagnosisQuery } from '../../model/api/queries';
import { reasonOf } from '../../model/api/transport';
import type { Build, Diagnosis, TestOrder } from '../../model/api/types';
import { type NewFinding, useCases } from '../../model/cases/kept';
import { standingOf } from '../../model/cases/standing';
import { lastAnswers } from '../../model/journal/lastAnswer';
import { addressOf } from '../../model/places';
import { Causes } from './Causes';
import { NextTest } from './NextTest';
import { SeenList } from './SeenList';
import { useCase } from './useCase';

const last = lastAnswers<Diagnosis>('diagnosis');

export type Offer = ComponentType<{ readonly onAdd: (finding: NewFinding) => void }>;

export interface Asked {
  readonly order: TestOrder;
  readonly hourlyRate: number;
}

/** It runs hot anyway: what was seen, what it may be, what to look at next. Of a build, or of any car. */
export function Cause({
  build,
  buildId,
  variant,
  Offered,
}: {
  readonly build: Build | null;
  readonly buildId: string | null;
  readonly variant: string | null;
  /** What the build itself offers as what is wrong. */
  readonly Offered?: Offer;
}) {
  const kept = useCase(buildId);
  const [asked, setAsked] = useState<Asked>({ order: 'telling', hourlyRate: 30 });
  const [opened, setOpened] = useState<string | null>(null);
  const standing = useMemo(() => standingOf(kept.shown?.entries ?? []), [kept.shown]);
  const answer = useQuery(
    diagnosisQuery(build, {
      variant,
      evidence: standing.evidence,
      order: asked.order,
      hourly_rate: asked.hourlyRate,
    }),
  );
  const scope = buildId ?? 'any';
  useEffect(() => {
    if (answer.data && !answer.isPlaceholderData) last.remember(scope, answer.data);
  }, [answer.data, answer.isPlaceholderData, scope]);
  const found: Diagnosis | null = answer.data ?? last.remembered(scope);
  const cards = useQuery(cardsQuery(build, variant, found?.spoken_by.state === 'model'));
  const away = useCases((s) => s.away) || (answer.isFetching && answer.failureCount > 0);
  const refused = useCases((s) => s.refused);
  const keeps = useCases((s) => s.keeps);
  const left = Object.values(kept.shown?.left ?? {});
  const behind = found !== null && (answer.data === undefined || answer.isPlaceholderData);
  if (!found)
    return (
      <Paragraph padding="6">
        {answer.isError ? `This cannot be answered: ${reasonOf(answer.error)}` : 'Looking…'}
      </Paragraph>
    );
  const told = 'complaint' in standing.evidence;
  // The test that was opened stays under the hand until it is answered.
  const tests = [...found.questions, ...found.next, ...found.others];
  const shown = tests.find((test) => test.observation === opened) ?? found.next[0] ?? null;
  return (
    <>
      {(away || refused || !keeps) && (
        <Notice kind="tight" role="status">
          <Words>
            {refused
              ? `Not stored: ${refused} It is tried again by itself.`
              : away
                ? `The server does not answer. ${keeps ? 'What you find is kept in this browser and sent when it is back; ' : 'This browser keeps nothing either, leave this page open; '}chances are those of before.`
                : 'This browser keeps nothing: leave this page open until all is sent.'}
          </Words>
        </Notice>
      )}
      {left.length > 0 && (
        <Notice kind="fails" role="alert">
          <Words>Not stored, in this browser only: {left.join(' ')}</Words>
        </Notice>
      )}
      {build && buildId && variant && (
        <InTheCar build={build} buildId={buildId} variant={variant} />
      )}
      {found.stop && (
        <Notice kind="fails" role="alert">
          <Words size="strong" tone="fails">
            {found.stop}
          </Words>
        </Notice>
      )}
      <Grid
        gridTemplateColumns={{
          base: 'minmax(0,1fr)',
          md: 'minmax(0,1fr) minmax(0,1fr)',
          lg: 'minmax(0,300px) minmax(0,1fr) minmax(0,372px)',
        }}
        alignItems="stretch"
        minHeight={{ lg: '100%' }}
      >
        <Box
          gridRow={{ base: told ? '2' : '1', md: '2', lg: '1' }}
          gridColumn={{ lg: '1' }}
          padding={{ base: '3', lg: '6' }}
          paddingBlock="4"
          borderRight={{ md: '1px solid' }}
          borderColor={{ md: 'rule' }}
        >
          <SeenList
            found={found}
            standing={standing}
            kept={kept}
            buildId={buildId}
            Offered={Offered}
            asked={asked}
            onAsk={setAsked}
            onOpen={setOpened}
          />
        </Box>
        <Box
          gridRow={{ base: '3', md: '2', lg: '1' }}
          gridColumn={{ lg: '2' }}
          padding={{ base: '3', lg: '6' }}
          paddingBlock="4"
          opacity={behind ? 0.7 : 1}
        >
          <Causes found={found} standing={standing} onAdd={kept.add} />
        </Box>
        <Box
          gridRow={{ base: told ? '1' : '2', md: '1', lg: '1' }}
          gridColumn={{ md: '1 / -1', lg: '3' }}
          padding={{ base: '3', lg: '6' }}
          paddingBlock="4"
          background="raised"
          borderLeft={{ lg: '1px solid' }}
          borderBottom={{ base: '1px solid', lg: 'none' }}
          borderColor={{ base: 'rule', lg: 'rule' }}
        >
          <NextTest
            found={found}
            standing={standing}
            shown={shown}
            cards={cards.data ?? []}
            car={scope}
            onAdd={(finding) => {
              kept.add(finding);
              setOpened(null);
            }}
            onOpen={setOpened}
          />
        </Box>
      </Grid>
    </>
  );
}

/** That another variant is looked at than the one that stands in the car, where that is marked. */
function InTheCar({
  build,
  buildId,
  variant,
}: {
  readonly build: Build;
  readonly buildId: string;
  readonly variant: string;
}) {
  const named = (id: string | null) => build.variants.find((one) => one.id === id)?.name;
  const inTheCar = named(build.standing ?? null);
  if (!inTheCar || build.standing === variant) return null;
  return (
    <Notice kind="tight">
      <Words>
        In the car stands “{inTheCar}”; this goes by “{named(variant)}”.{' '}
        <Way
          to={addressOf({
            id: buildId,
            variant: build.standing ?? variant,
            place: 'cause',
            caseId: null,
          })}
        >
          Go by the one in the car
        </Way>
      </Words>
    </Notice>
  );
}
