import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Way } from '../../kit/page/Way';
import { Photos, TakePhoto } from '../../kit/photos/Photos';
import { Box, Button, Grid, Input, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { BandTimer } from '../../kit/steps/BandTimer';
import { Paragraphs } from '../../kit/words/Paragraphs';
import { Sentence } from '../../kit/words/Sentence';
import type { Filling, FitStep } from '../../model/api/types';
import { type NewEntry, useJobs } from '../../model/jobs/kept';
import { standingStep } from '../../model/jobs/standing';
import { addressOf } from '../../model/places';
import { useSession } from '../../model/save/context';
import { counted } from '../../model/words/counted';
import { expectedAt } from './expected';
import type { InJob } from './Fit';
import { LookInto } from './LookInto';
import { BY_EYE, EVIDENCE } from './proofs';
import { Reading } from './Reading';
import { TakeBack } from './TakeBack';
import { useFitChoices } from './useFitChoices';
import { Written } from './Written';

/** The step that matters now: caution first, then what to do, then one large press. */
export function StepCard({
  of,
  step,
  filling,
  begun,
  onGo,
}: {
  readonly of: InJob;
  readonly step: FitStep;
  readonly filling: Filling | null;
  readonly begun: NonNullable<NewEntry['plan']>;
  readonly onGo: (id: string) => void;
}) {
  const { plan, job } = of;
  const hand = useFitChoices((s) => s.hand);
  const setValue = useSession((s) => s.setValue);
  const unsent = useJobs((s) => (job.shown ? (s.journals[job.shown.id]?.unsent.length ?? 0) : 0));
  const standing = standingStep(job.standing, step.id);
  const [asking, setAsking] = useState<'note' | 'skip' | null>(null);
  const last = job.standing.proofs.filter((one) => one.proof === step.proof).at(-1);
  const failed = last?.verdict === 'fail';
  const at = plan.steps.findIndex((one) => one.id === step.id);
  const before = plan.steps[at - 1];
  const after = plan.steps[at + 1];
  const waiting = plan.steps.filter(
    (one) => one.id !== step.id && standingStep(job.standing, one.id).state === 'open',
  );
  /** Where one goes on: behind this step, else to what was passed by. */
  const next = waiting.find((one) => one.number > step.number) ?? waiting[0];
  const expected = expectedAt(step, filling, job.standing);
  const skipped = step.if_skipped.filter(
    (one) => standingStep(job.standing, one.step).state === 'skipped',
  );
  const beside = step.beside.filter((id) => standingStep(job.standing, id).state === 'open');
  const undone = step.after.filter((id) => standingStep(job.standing, id).state === 'open');

  function write(entry: NewEntry) {
    // A job begins with its first entry, and knows what it was planned for.
    if (!job.shown) job.begin(begun);
    job.add({ ...entry, by: hand, step: step.id });
  }
  /** A step that one's own eyes prove is proved by its tick. */
  const proves = step.proof && BY_EYE.includes(step.proof) ? step.proof : null;
  function tick() {
    write({ kind: 'ticked' });
    if (proves) write({ kind: 'proof', proof: proves, verdict: 'pass' });
    if (next) onGo(next.id);
  }

  function undo() {
    write({ kind: 'undone' });
    // What its tick proved is not proved either.
    if (proves && last?.step === step.id && last.verdict === 'pass') job.takeBack(last.id);
  }

  return (
    <Box as="section" aria-label="Step" data-step-card={step.id}>
      {step.cautions.length > 0 && (
        <Box
          as="ul"
          aria-label="Cautions"
          background="failsSoft"
          marginInline={{ base: '-3', md: '0' }}
          paddingInline="4"
          paddingBlock="1"
        >
          {step.cautions.map((caution) => (
            <Box as="li" key={JSON.stringify(caution)} paddingBlock="1">
              <Words size="small" tone="fails" fontWeight="strong">
                <Sentence text={caution} />
              </Words>
            </Box>
          ))}
        </Box>
      )}
      <Row justifyContent="space-between" marginTop="3" minHeight="20px">
        <Words size="small" tone="quiet">
          Step {step.number} of {plan.steps.length}
          {step.hands === 2 ? ', two people' : ''}
        </Words>
        <Words size="small" tone="quiet">
          {unsent > 0 ? `${counted(unsent, 'waits', 'wait')} to be sent` : ''}
        </Words>
      </Row>
      <Title textStyle="large" fontSize="1.5625rem" lineHeight="1.18" marginBottom="2">
        <Sentence text={step.title} />
      </Title>
      {skipped.map((one) => (
        <Paragraph key={one.step} role="note" tone="tight" fontWeight="strong" marginBottom="2">
          {one.text}
        </Paragraph>
      ))}
      {undone.length > 0 && standing.state === 'open' && (
        <Paragraph size="small" tone="tight" marginBottom="2">
          {counted(undone.length, 'step', 'steps')} before this one not done yet:
          {undone.slice(0, 2).map((id) => {
            const one = plan.steps.find((entry) => entry.id === id);
            return one ? (
              <Button key={id} look="bare" paddingInline="1" onClick={() => onGo(id)}>
                step {one.number}
              </Button>
            ) : null;
          })}
        </Paragraph>
      )}
      {expected && (
        <BandTimer
          startedAt={standing.startedAt}
          took={standing.took}
          came={standing.moments[step.timer ?? ''] ?? null}
          band={expected.band}
          expects={expected.of}
        />
      )}
      <Paragraphs texts={step.how} marginTop="2" fontSize="1.0625rem" />
      {step.timer === 'opens' && filling && (
        <Paragraph marginTop="2">
          Then about{' '}
          <b>
            <Sentence
              text={[{ quantity: 'volume', value: filling.tops_up.likely_l, bare: false }]}
            />
          </b>{' '}
          goes in, up to{' '}
          <Sentence text={[{ quantity: 'volume', value: filling.tops_up.most_l, bare: false }]} />.
        </Paragraph>
      )}
      {step.bad.length > 0 && (
        <Box borderTop="1px solid" borderColor="rule" marginTop="3" paddingTop="2">
          {step.bad.map((sign) => (
            <Paragraph key={JSON.stringify(sign.evidence)} size="small">
              <Sentence text={sign.text} /> <LookInto of={of} evidence={sign.evidence} />
            </Paragraph>
          ))}
        </Box>
      )}
      {step.tools.length > 0 && (
        <Paragraph size="small" tone="quiet" marginTop="2">
          Needs {step.tools.join(', ')}.
        </Paragraph>
      )}
      {beside.length > 0 && standing.state === 'open' && (
        <Paragraph size="small" tone="quiet" marginTop="1">
          By two, the other one meanwhile: step{' '}
          {beside
            .map((id) => plan.steps.find((one) => one.id === id)?.number)
            .sort((a, b) => (a ?? 0) - (b ?? 0))
            .join(', ')}
          .
        </Paragraph>
      )}
      <Written standing={standing} step={step} onTakeBack={job.takeBack} />
      <Photos
        entries={standing.photos}
        beside={(id) => <TakeBack what="photo" onPress={() => job.takeBack(id)} />}
      />
      <Box data-print="no">
        {expected && (
          <Grid gridTemplateColumns="1fr 1fr" gap="3" marginTop="4">
            {standing.startedAt === null ? (
              <Button minHeight="58px" onClick={() => write({ kind: 'started' })}>
                {standing.took === null ? 'Start the clock' : 'Start it anew'}
              </Button>
            ) : (
              <Button minHeight="58px" onClick={() => write({ kind: 'stopped' })}>
                Stop the clock
              </Button>
            )}
            {standing.startedAt !== null &&
              step.events.map((moment) => (
                <Button
                  key={moment.event}
                  minHeight="58px"
                  whiteSpace="normal"
                  aria-pressed={moment.event in standing.moments}
                  onClick={() => write({ kind: 'moment', event: moment.event })}
                >
                  {moment.says}
                </Button>
              ))}
          </Grid>
        )}
        {step.reads.map((one) => (
          <Reading
            key={one.name}
            reading={one}
            onRead={(value) =>
              write({ kind: 'reading', reading: one.name, quantity: one.quantity, value })
            }
          />
        ))}
        {step.proof === 'hold' && (
          <Way
            to={addressOf({
              id: of.buildId,
              variant: of.variant,
              place: 'fit/prove',
              caseId: null,
            })}
          >
            Write the gauge down under Prove it
          </Way>
        )}
        {standing.state === 'open' ? (
          <Button
            look="main"
            width="100%"
            minHeight="62px"
            marginTop="4"
            fontSize="1.125rem"
            whiteSpace="normal"
            onClick={tick}
          >
            {next ? (
              <>
                {proves ? 'Passed' : 'Done'}, next: <Sentence text={next.title} />
              </>
            ) : (
              `${proves ? 'Passed' : 'Done'}: that was the last`
            )}
          </Button>
        ) : (
          <Row marginTop="4" gap="2" flexWrap="wrap">
            <Words tone={standing.state === 'ticked' ? 'holds' : 'tight'} fontWeight="strong">
              {standing.state === 'ticked' ? 'Done' : 'Left out'}
              {standing.by ? ` by ${standing.by}` : ''}
              {standing.at
                ? `, ${new Date(standing.at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })}`
                : ''}
              {standing.reason ? `: ${standing.reason}` : ''}
            </Words>
            <Button onClick={undo}>Undo</Button>
            {after && (
              <Button look="bare" onClick={() => onGo(after.id)}>
                on to step {after.number}
              </Button>
            )}
          </Row>
        )}
        {proves && standing.state === 'open' && (
          <Row marginTop="2" gap="2" flexWrap="wrap">
            <Button onClick={() => write({ kind: 'proof', proof: proves, verdict: 'fail' })}>
              It did not pass
            </Button>
            {failed && last && (
              <TakeBack what="it did not pass" onPress={() => job.takeBack(last.id)} />
            )}
            {failed && <LookInto of={of} evidence={EVIDENCE[proves] ?? {}} />}
          </Row>
        )}
        {waiting.length === 0 && standing.state !== 'open' && of.build.standing !== of.variant && (
          <Button look="main" marginTop="3" onClick={() => setValue('/standing', of.variant)}>
            All done: this variant stands in the car now
          </Button>
        )}
        {asking && (
          <Ask
            what={asking}
            onSay={(note) => {
              write(asking === 'skip' ? { kind: 'skipped', note } : { kind: 'note', note });
              setAsking(null);
              if (asking === 'skip' && next) onGo(next.id);
            }}
            onLeave={() => setAsking(null)}
          />
        )}
        <Row justifyContent="space-between" marginTop="2" gap="1">
          <Button
            look="bare"
            disabled={!before}
            onClick={() => before && onGo(before.id)}
            aria-label={before ? `Back to step ${before.number}` : 'No step before'}
          >
            ◂ {before ? `step ${before.number}` : ''}
          </Button>
          <Button look="bare" onClick={() => setAsking('note')}>
            note
          </Button>
          <TakePhoto
            label="Photo of this step"
            onTaken={(photo) => write({ kind: 'photo', photo })}
          />
          <Button
            look="bare"
            disabled={standing.state !== 'open'}
            onClick={() => setAsking('skip')}
          >
            skip, why
          </Button>
        </Row>
      </Box>
    </Box>
  );
}

function Ask({
  what,
  onSay,
  onLeave,
}: {
  readonly what: 'note' | 'skip';
  readonly onSay: (text: string) => void;
  readonly onLeave: () => void;
}) {
  const [text, setText] = useState('');
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) onSay(text.trim());
      }}
    >
      <Box marginTop="3">
        <Labelled quiet label={what === 'skip' ? 'Why is it left out?' : 'Note'}>
          <Input
            autoFocus
            value={text}
            maxLength={2000}
            onChange={(event) => setText(event.target.value)}
            onKeyDown={(event) => {
              if (event.key === 'Escape') onLeave();
            }}
          />
        </Labelled>
        <Row gap="2" marginTop="2">
          <Button type="submit" look="main" disabled={text.trim() === ''}>
            {what === 'skip' ? 'Leave it out' : 'Keep it'}
          </Button>
          <Button onClick={onLeave}>Never mind</Button>
        </Row>
      </Box>
    </form>
  );
}
