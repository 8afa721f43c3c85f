import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef, useState } from 'react';
import { usePhone } from '../../kit/page/usePhone';
import {
  Box,
  Button,
  Grid,
  Heading,
  Notice,
  Paragraph,
  Row,
  Title,
  Words,
} from '../../kit/primitives';
import { StepMark } from '../../kit/steps/StepMark';
import { Sentence } from '../../kit/words/Sentence';
import { fillingQuery } from '../../model/api/queries';
import type { FitStep } from '../../model/api/types';
import { standingStep } from '../../model/jobs/standing';
import { useSession } from '../../model/save/context';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import type { InJob } from './Fit';
import { PlanChanged } from './PlanChanged';
import { StepCard } from './StepCard';
import { stepTitle } from './stepTitle';
import { useFitChoices } from './useFitChoices';

/** The work plan: every step in its order, the one that matters now in full. */
export function Plan(of: InJob) {
  const { plan, job, build, variant } = of;
  const phone = usePhone();
  const { standing } = job;
  const revision = useSession((s) => s.revision);
  const filling = useQuery(fillingQuery(build, { variant, idle_rpm: 840 }));
  const next = plan.steps.find((step) => standingStep(standing, step.id).state === 'open') ?? null;
  const [chosen, setChosen] = useState<string | null>(null);
  const [listing, setListing] = useState(false);
  const shown = plan.steps.find((step) => step.id === chosen) ?? next ?? plan.steps.at(-1) ?? null;
  const top = useRef<HTMLDivElement>(null);
  const begun = {
    revision,
    standing: build.standing ?? variant,
    variant,
    school: plan.school,
    steps: plan.steps.map((step) => step.id),
  };
  const done = plan.steps.filter((step) => standingStep(standing, step.id).state !== 'open').length;
  const at = shown?.id ?? null;
  const before = useRef(at);
  // biome-ignore lint/correctness/useExhaustiveDependencies: a step that one goes to, or comes to by a tick, begins at its top
  useEffect(() => {
    const on = before.current !== null && before.current !== at;
    before.current = at;
    const passed = (top.current?.getBoundingClientRect().top ?? 0) < 0;
    if (phone && (chosen || (on && passed))) top.current?.scrollIntoView({ block: 'start' });
  }, [chosen, at]);

  if (plan.steps.length === 0)
    return (
      <>
        <Paragraph paddingBlock="4">
          <Sentence text={plan.does} />
        </Paragraph>
        <Gone of={of} />
      </>
    );
  return (
    <>
      {!job.ready ? null : !job.shown || !standing.plan ? (
        <Notice paddingInline="3" data-print="no">
          <Words>
            {counted(plan.steps.length, 'step', 'steps')}, about {hours(plan.minutes)} alone,{' '}
            {hours(plan.minutes_by_two)} by two, waiting included.
          </Words>
          <Button look="main" onClick={() => job.begin(begun)}>
            Start this job
          </Button>
        </Notice>
      ) : (
        <PlanChanged of={of} begun={begun} />
      )}
      <Grid
        ref={top}
        gridTemplateColumns={{ base: 'minmax(0,1fr)', md: 'minmax(0,1fr) minmax(0,1.15fr)' }}
        gap={{ base: '0', md: '8' }}
        alignItems="start"
      >
        {(!phone || listing) && (
          <Box gridRow={{ base: '2', md: '1' }} paddingTop="3">
            <Tools tools={plan.tools} />
            <StepList
              of={of}
              shown={shown}
              onShow={(id) => {
                setChosen(id);
                setListing(false);
              }}
            />
            <Gone of={of} />
          </Box>
        )}
        {shown && (
          <Box
            gridRow="1"
            position={{ md: 'sticky' }}
            top={{ md: '3' }}
            paddingTop="3"
            minWidth="0"
          >
            <StepCard
              key={shown.id}
              of={of}
              step={shown}
              filling={filling.data ?? null}
              begun={begun}
              onGo={(id) => setChosen(id)}
            />
            {phone && (
              <Row justifyContent="space-between" marginTop="2" data-print="no">
                <Words size="small" tone="quiet">
                  {done} of {plan.steps.length} done
                </Words>
                <Button look="bare" aria-expanded={listing} onClick={() => setListing(!listing)}>
                  {listing ? 'hide the list' : 'all steps and tools'}
                </Button>
              </Row>
            )}
          </Box>
        )}
      </Grid>
    </>
  );
}

export function hours(minutes: number): string {
  if (minutes < 90) return counted(Math.round(minutes), 'minute', 'minutes');
  const halves = Math.round(minutes / 30) / 2;
  const whole = Math.floor(halves);
  return `${whole}${halves > whole ? '½' : ''} hours`;
}

function Tools({ tools }: { readonly tools: readonly string[] }) {
  const hand = useFitChoices((s) => s.hand);
  const call = useFitChoices((s) => s.call);
  const [naming, setNaming] = useState(false);
  return (
    <Box marginBottom="3">
      <Heading>Tools and what is used up</Heading>
      <Paragraph size="small" tone="quiet">
        {tools.join(', ')}.
      </Paragraph>
      <Row gap="2" data-print="no">
        <Words size="small" tone="quiet">
          {hand ? `Ticked by ${hand}` : 'Two people? Say whose hand ticks.'}
        </Words>
        {naming ? (
          <form
            onSubmit={(event) => {
              event.preventDefault();
              call(String(new FormData(event.currentTarget).get('hand') ?? '').trim());
              setNaming(false);
            }}
          >
            <Row gap="1">
              <HandInput initial={hand} />
              <Button type="submit">Keep</Button>
            </Row>
          </form>
        ) : (
          <Button look="bare" onClick={() => setNaming(true)}>
            {hand ? 'change' : 'name it'}
          </Button>
        )}
      </Row>
    </Box>
  );
}

function HandInput({ initial }: { readonly initial: string }) {
  return (
    <Box
      as="input"
      // @ts-expect-error an input of the house's own look
      name="hand"
      aria-label="Whose hand"
      defaultValue={initial}
      maxLength={40}
      minHeight="target"
      paddingInline="3"
      border="1px solid"
      borderColor="field"
      borderRadius="soft"
      background="raised"
      width="160px"
    />
  );
}

function StepList({
  of,
  shown,
  onShow,
}: {
  readonly of: InJob;
  readonly shown: FitStep | null;
  readonly onShow: (id: string) => void;
}) {
  const { plan, job } = of;
  return (
    <>
      {plan.stages.map((stage) => {
        const steps = plan.steps.filter((step) => step.stage === stage.stage);
        const open = steps.filter((step) => standingStep(job.standing, step.id).state === 'open');
        const here = steps.some((step) => step.id === shown?.id);
        return (
          <Box
            as="details"
            key={`${stage.stage} ${open.length === 0}`}
            // A part that is done folds up; the one that one is at stays open.
            {...(open.length > 0 || here ? { open: true } : {})}
            aria-label={stage.title}
            marginBottom="2"
          >
            <Box as="summary" cursor="pointer" minHeight="target" paddingBlock="2">
              <Words size="strong">{stage.title}</Words>
              <Words size="small" tone="quiet" marginLeft="2">
                {open.length === 0 ? 'done' : `${steps.length - open.length} of ${steps.length}`}
              </Words>
            </Box>
            <ol>
              {steps.map((step) => (
                <StepLine
                  key={step.id}
                  step={step}
                  state={standingStep(job.standing, step.id).state}
                  here={step.id === shown?.id}
                  onShow={onShow}
                />
              ))}
            </ol>
          </Box>
        );
      })}
    </>
  );
}

const STATES = { open: 'not done', ticked: 'done', skipped: 'left out' } as const;

function StepLine({
  step,
  state,
  here,
  onShow,
}: {
  readonly step: FitStep;
  readonly state: keyof typeof STATES;
  readonly here: boolean;
  readonly onShow: (id: string) => void;
}) {
  return (
    <Box as="li" borderTop="1px solid" borderColor="rule">
      <Button
        look="bare"
        width="100%"
        display="flex"
        alignItems="center"
        gap="3"
        whiteSpace="normal"
        textAlign="left"
        color="ink"
        fontWeight={here ? 'strong' : 'plain'}
        background={here ? 'accentSoft' : 'transparent'}
        aria-current={here ? 'step' : undefined}
        data-step={step.id}
        onClick={() => onShow(step.id)}
      >
        <StepMark mark={state} />
        <Words size="small" tone="quiet" minWidth="20px" textAlign="right">
          {step.number}
        </Words>
        <Words flex="1" textDecoration={state === 'skipped' ? 'line-through' : undefined}>
          <Sentence text={step.title} />
          <Words size="small" tone="quiet">
            {' '}
            {STATES[state] === 'not done' ? '' : STATES[state]}
          </Words>
        </Words>
        <Words size="small" tone="quiet" whiteSpace="nowrap">
          {Math.round(step.minutes)} min{step.hands === 2 ? ', two' : ''}
        </Words>
      </Button>
    </Box>
  );
}

/** What was done and is no longer part of the plan: nothing that was ticked is lost. */
function Gone({ of }: { readonly of: InJob }) {
  const { plan, job } = of;
  const units = useUnits((choice) => choice.units);
  const there = new Set(plan.steps.map((step) => step.id));
  const gone = Object.entries(job.standing.steps).filter(
    ([id, step]) => !there.has(id) && step.state !== 'open',
  );
  if (gone.length === 0) return null;
  return (
    <Box as="section" aria-label="Done and no longer in the plan">
      <Title as="h2" textStyle="strong">
        Done, and no longer in the plan
      </Title>
      <ul>
        {gone.map(([id, step]) => (
          <Box as="li" key={id} borderTop="1px solid" borderColor="rule" paddingBlock="1">
            <Words size="small">
              {stepTitle(id, plan, units)}: {STATES[step.state]}
            </Words>
          </Box>
        ))}
      </ul>
    </Box>
  );
}
