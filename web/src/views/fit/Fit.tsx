import { chakra } from '@chakra-ui/react';
import { useQuery } from '@tanstack/react-query';
import { useEffect } from 'react';
import { NavLink, useParams } from 'react-router';
import { Box, Notice, Paragraph, Row, Select, Words } from '../../kit/primitives';
import { Mind } from '../../kit/words/Mind';
import { Sentence } from '../../kit/words/Sentence';
import { planQuery } from '../../model/api/queries';
import { reasonOf } from '../../model/api/transport';
import type { Build, FitPlan, FitSchool } from '../../model/api/types';
import { useJobs } from '../../model/jobs/kept';
import { lastAnswers } from '../../model/journal/lastAnswer';
import { addressOf } from '../../model/places';
import { useSession } from '../../model/save/context';
import { counted } from '../../model/words/counted';
import { CarFacts } from './CarFacts';
import { FillAndBleed } from './FillAndBleed';
import { Mix } from './Mix';
import { Parts } from './Parts';
import { Plan } from './Plan';
import { Prove } from './Prove';
import { type FitPart, partOf, parts } from './parts';
import { TakeBack } from './TakeBack';
import { useFitChoices } from './useFitChoices';
import { type Job, useJob } from './useJob';

const last = lastAnswers<FitPlan>('plan');

const Tab = chakra(NavLink, {
  base: {
    minHeight: 'target',
    minWidth: 'target',
    flex: '0 0 auto',
    display: 'inline-flex',
    alignItems: 'center',
    paddingInline: '3',
    color: 'ink',
    fontWeight: 'field',
    textDecoration: 'none',
    whiteSpace: 'nowrap',
    borderBottom: '3px solid transparent',
    _hover: { background: 'accentSoft' },
    '&[aria-current=page]': { borderBottomColor: 'accent', fontWeight: 'strong' },
  },
});

export interface InJob {
  readonly build: Build;
  readonly buildId: string;
  readonly variant: string;
  readonly plan: FitPlan;
  readonly job: Job;
  readonly school: FitSchool;
}

const SCHOOLS: Record<FitSchool, string> = {
  bad: 'only what is bad',
  usual: 'the usual with it',
  all: 'all that is old',
};

/** From the decision to the first drive: parts, plan, mix, first run and proofs, at the desk and at the car. */
export function Fit() {
  const { part: found } = useParams();
  const part = partOf(found) ?? '';
  const build = useSession((s) => s.build);
  const buildId = useSession((s) => s.id);
  const variant = useSession((s) => s.build.variants[s.variant]?.id ?? '');
  const setValue = useSession((s) => s.setValue);
  const school = useFitChoices((s) => s.school[buildId] ?? 'usual');
  const choose = useFitChoices((s) => s.choose);
  const job = useJob(buildId);
  const answer = useQuery(planQuery(build, variant, school));
  const scope = `${buildId}.${variant}.${school}`;
  useEffect(() => {
    if (answer.data && !answer.isPlaceholderData) last.remember(scope, answer.data);
  }, [answer.data, answer.isPlaceholderData, scope]);
  const plan = answer.data ?? last.remembered(scope);
  const atTheDesk = {
    base: part === 'parts' ? 'flex' : 'none',
    md: part === 'parts' || part === '' ? 'flex' : 'none',
  };
  return (
    <Box paddingInline={{ base: '3', lg: '6' }} paddingBottom="6">
      <Row
        as="nav"
        aria-label="Fit and fill"
        gap="0"
        overflowX="auto"
        borderBottom="1px solid"
        borderColor="rule"
        data-print="no"
      >
        {(Object.keys(parts) as FitPart[]).map((name) => (
          <Tab
            key={name}
            end
            to={addressOf({
              id: buildId,
              variant,
              place: name ? `fit/${name}` : 'fit',
              caseId: null,
            })}
          >
            {parts[name]}
          </Tab>
        ))}
      </Row>
      <Waiting />
      <NotTaken of={job} />
      <Row
        flexWrap="wrap"
        gap="3"
        paddingBlock="2"
        alignItems="end"
        display={atTheDesk}
        data-print="no"
      >
        <Chosen label="In the car today">
          <Select
            aria-label="In the car today"
            value={
              build.variants.some((v) => v.id === build.standing) ? (build.standing ?? '') : ''
            }
            onChange={(event) => setValue('/standing', event.target.value || null)}
          >
            <option value="">not marked</option>
            {build.variants.map((one) => (
              <option key={one.id} value={one.id}>
                {one.name}
              </option>
            ))}
          </Select>
        </Chosen>
        <Chosen label="Renewed with it">
          <Select
            aria-label="Renewed with it"
            value={school}
            onChange={(event) => choose(buildId, event.target.value as FitSchool)}
          >
            {Object.entries(SCHOOLS).map(([id, words]) => (
              <option key={id} value={id}>
                {words}
              </option>
            ))}
          </Select>
        </Chosen>
        {plan && (
          <Paragraph tone="quiet" flex="1" minWidth="220px">
            <Sentence text={plan.does} />
          </Paragraph>
        )}
      </Row>
      {plan?.against && plan.against.length > 0 && (
        <Box
          as="section"
          aria-label="Before it is bought"
          display={atTheDesk}
          flexDirection="column"
          paddingBottom="2"
        >
          <Mind texts={plan.against} />
        </Box>
      )}
      {!plan ? (
        <Paragraph paddingBlock="4">
          {answer.isError ? `This cannot be planned: ${reasonOf(answer.error)}` : 'Planning…'}
        </Paragraph>
      ) : (
        <Part part={part} of={{ build, buildId, variant, plan, job, school }} />
      )}
    </Box>
  );
}

function Part({ part, of }: { readonly part: FitPart; readonly of: InJob }) {
  if (part === 'parts') return <Parts {...of} />;
  if (part === 'car') return <CarFacts unknown={of.plan.unknown} />;
  if (part === 'mix') return <Mix build={of.build} variant={of.variant} />;
  if (part === 'fill') return <FillAndBleed {...of} />;
  if (part === 'prove') return <Prove {...of} />;
  return <Plan {...of} />;
}

function Chosen({
  label,
  children,
}: {
  readonly label: string;
  readonly children: React.ReactNode;
}) {
  return (
    <Box minWidth="200px">
      <Words size="small" tone="quiet" display="block">
        {label}
      </Words>
      {children}
    </Box>
  );
}

/** What the server does not take, and why: each can be taken back and written anew. */
function NotTaken({ of }: { readonly of: Job }) {
  const back = new Set(of.all.flatMap((one) => one.entries.map((entry) => entry.of)));
  const left = of.all
    .flatMap((one) => Object.entries(one.left ?? {}))
    .filter(([id]) => !back.has(id));
  if (left.length === 0) return null;
  return (
    <Notice kind="fails" role="alert" paddingInline="3">
      {left.map(([id, why]) => (
        <Words key={id} display="block">
          Not stored, in this browser only: {why}{' '}
          <TakeBack what={why} onPress={() => of.takeBack(id)} />
        </Words>
      ))}
    </Notice>
  );
}

/** What is not sent yet, and why. */
function Waiting() {
  const away = useJobs((s) => s.away);
  const refused = useJobs((s) => s.refused);
  const keeps = useJobs((s) => s.keeps);
  const unsent = useJobs((s) =>
    Object.values(s.journals).reduce((sum, one) => sum + one.unsent.length, 0),
  );
  if (!away && !refused && keeps) return null;
  const waits = `${counted(unsent, 'entry waits', 'entries wait')} to be sent`;
  return (
    <Notice kind="tight" role="status" paddingInline="3">
      <Words>
        {refused
          ? `Not stored: ${refused} It is tried again by itself.`
          : away
            ? `The server does not answer: ${waits}. ${keeps ? 'They are kept in this browser.' : 'This browser keeps nothing either, leave this page open.'}`
            : 'This browser keeps nothing: leave this page open until all is sent.'}
      </Words>
    </Notice>
  );
}
