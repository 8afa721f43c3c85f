import { useEffect, useId, useRef, useState } from 'react';
import {
  Box,
  Button,
  Grid,
  Heading,
  Paragraph,
  Progress,
  Row,
  Title,
  Words,
} from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import type { SizedSolution, Sizing, SizingRun, Wishes } from '../../model/api/types';
import { MOST_VARIANTS, withVariant } from '../../model/document/edit';
import { sameValue } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { counted } from '../../model/words/counted';
import { Front } from './Front';
import { keepWishes, keptWishes } from './keptWishes';
import { Moves } from './Moves';
import { Requirement } from './Requirement';
import { SolutionDetail, SolutionRows, titleOf } from './Solutions';
import { useSizing } from './useSizing';
import { WishFields } from './WishFields';

const FIRST: Wishes = {
  by: 'chance',
  chance_share: 0.9,
  margin_k: 6,
  cores: 'any',
  coolant: 'fitted',
  keep: [],
};
const LONG_WAIT = 8000;

/** From what the build asks to parts that do it: wishes on the left, the answer beside them. */
export function Size({
  onDone,
  onShow,
}: {
  readonly onDone: () => void;
  /** Go to a variant that was just added. */
  readonly onShow: (variant: string) => void;
}) {
  const form = useId();
  const sizing = useSizing();
  const { run, busy, start, stop, remove } = sizing;
  const id = useSession((s) => s.id);
  const [edited, setEdited] = useState<Wishes | null>(() => keptWishes(id));
  const [wrong, setWrong] = useState<ReadonlySet<string>>(new Set());
  const wishes = edited ?? run?.question.wishes ?? FIRST;
  const answer = useRef<HTMLDivElement>(null);
  // The run that was there when another was asked for; null once that one is there.
  const before = useRef<string | null>(null);
  useEffect(() => {
    if (!run || before.current === null || before.current === run.id) return;
    before.current = null;
    // On a phone it stands far below what was pressed.
    const there = answer.current?.getBoundingClientRect();
    const screen = document.documentElement.clientHeight;
    if (there && there.top > screen / 2) answer.current?.scrollIntoView();
  }, [run]);
  const failure = start.error ?? stop.error ?? remove.error ?? sizing.error;
  return (
    <Box as="section" aria-label="Size it" paddingInline={{ base: '3', lg: '6' }} paddingBlock="4">
      <Row flexWrap="wrap" justifyContent="space-between">
        <Title>Size it</Title>
        <Row gap="2" flexWrap="wrap">
          {busy && run && <Button onClick={() => stop.mutate(run.id)}>Stop</Button>}
          {!busy && run && (
            <Button look="bare" disabled={remove.isPending} onClick={() => remove.mutate(run.id)}>
              Let this result go
            </Button>
          )}
          <Button
            type="submit"
            form={form}
            look="main"
            disabled={wrong.size > 0 || start.isPending}
          >
            {start.isPending ? 'Finding parts…' : busy ? 'Begin again' : 'Find parts'}
          </Button>
          <Button onClick={onDone} title="Esc">
            Back to the loop
          </Button>
        </Row>
      </Row>
      {failure && (
        <Words role="alert" tone="fails" display="block" marginTop="2">
          {failure.message}
        </Words>
      )}
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: '244px minmax(0,1fr)' }}
        columnGap="6"
        alignItems="start"
        marginTop="2"
      >
        <form
          id={form}
          aria-label="What it must keep to"
          onSubmit={(event) => {
            event.preventDefault();
            if (wrong.size > 0) return;
            before.current = run?.id ?? '';
            start.mutate(wishes, {
              onSuccess: () => {
                // What was changed while it was being found is kept, to be asked next.
                setEdited((now) => (sameValue(now, edited) ? null : now));
                if (sameValue(keptWishes(id), edited)) keepWishes(id, null);
              },
              onError: () => {
                before.current = null;
              },
            });
          }}
        >
          <Heading>What it must keep to</Heading>
          <WishFields
            wishes={wishes}
            onChange={(next) => {
              setEdited(next);
              keepWishes(id, next);
            }}
            onWrong={(name, isWrong) =>
              setWrong((before) => {
                const next = new Set(before);
                if (isWrong) next.add(name);
                else next.delete(name);
                return next;
              })
            }
          />
        </form>
        <Box
          ref={answer}
          minWidth="0"
          minHeight={{ base: run ? '80vh' : '0', lg: '0' }}
          scrollMarginTop={{ base: '80px', lg: '3' }}
        >
          {run && <State run={run} at={sizing.at} />}
          {!run && !sizing.loading && (
            <Paragraph tone="quiet" maxWidth="560px">
              Say what the parts must keep to, and Ebbrin looks through cores, fans, shrouds,
              pulleys and coolants, from the shelf and made to measure, for the few combinations
              that nobody would regret. It starts from the variant shown above.
            </Paragraph>
          )}
          {run?.result && (
            <Answer
              key={run.id}
              run={run}
              sizing={run.result}
              stale={edited !== null && !sameValue(edited, run.question.wishes)}
              onShow={onShow}
            />
          )}
        </Box>
      </Grid>
    </Box>
  );
}

/** How far it is, or why it came to nothing. */
function State({
  run,
  at,
}: {
  readonly run: SizingRun /** When it was looked at. */;
  readonly at: number;
}) {
  if (run.state === 'done') return null;
  if (run.state === 'failed')
    return (
      <Paragraph role="alert" tone="fails">
        {run.message}
      </Paragraph>
    );
  if (run.state === 'cancelled')
    return <Paragraph tone="quiet">Stopped. Nothing in the build was changed.</Paragraph>;
  const waits = at - Date.parse(run.created_at);
  return (
    <Box role="status" aria-label="Progress" marginBottom="3" minHeight="48px">
      <Progress value={run.progress} max={1} aria-label="Share that is done" />
      <Words tone="quiet" display="block" marginTop="1">
        {run.state === 'waiting'
          ? waits > LONG_WAIT
            ? 'No worker has taken it up yet. Start one with ./start; it waits here until then.'
            : 'Waiting for a worker…'
          : `${run.attempt > 1 ? 'A worker was lost; another has begun again. ' : ''}Looking through combinations, ${Math.round(100 * run.progress)} %. You may go elsewhere; it goes on.`}
      </Words>
    </Box>
  );
}

function Answer({
  run,
  sizing,
  stale,
  onShow,
}: {
  readonly run: SizingRun;
  readonly sizing: Sizing;
  /** Whether the wishes have been changed since. */
  readonly stale: boolean;
  readonly onShow: (variant: string) => void;
}) {
  const build = useSession((s) => s.build);
  const setBuild = useSession((s) => s.setBuild);
  const [chosen, setChosen] = useState(0);
  const solution = sizing.solutions[chosen];
  const from = run.question.build.variants.find((entry) => entry.id === run.question.variant);
  const now = build.variants.find((entry) => entry.id === run.question.variant);
  const changed =
    !now ||
    !sameValue({ ...now, name: '' }, { ...from, name: '' }) ||
    !sameValue(build.cases, run.question.build.cases) ||
    !sameValue(build.site, run.question.build.site);
  const asked = run.question.wishes ?? FIRST;
  const byChance = asked.by !== 'margin';
  const wanted = byChance ? 0 : (asked.margin_k ?? 6);

  const full = build.variants.length >= MOST_VARIANTS;

  function open(taken: SizedSolution) {
    const name = `Sized, ${titleOf(taken)}`;
    const next = withVariant(build, { ...taken.variant, id: 'sized-1', name });
    setBuild(next);
    onShow(next.variants.at(-1)?.id ?? '');
  }

  return (
    <>
      {(changed || stale) && (
        <Words role="status" size="small" tone="tight" display="block" marginBottom="2">
          {changed
            ? 'The build has changed since this was found. Find parts again for it as it stands now.'
            : 'The wishes have changed since this was found.'}
        </Words>
      )}
      <Requirement required={sizing.requirement} build={run.question.build.name} />
      {sizing.solutions.length > 0 && (
        <Box as="section" aria-label="Which parts would do" marginTop="4">
          <Heading>Which parts would do, from “{(now ?? from)?.name}”</Heading>
          <Front
            points={sizing.front}
            wanted={wanted}
            byChance={byChance}
            chosen={chosen}
            onChoose={setChosen}
          />
          <SolutionRows
            solutions={sizing.solutions}
            chosen={chosen}
            full={full}
            onChoose={setChosen}
            onOpen={open}
          />
          {solution && (
            <SolutionDetail number={chosen + 1} solution={solution} full={full} onOpen={open} />
          )}
          <Moves sizing={sizing} />
        </Box>
      )}
      {sizing.obstacles.length > 0 && (
        <Box as="section" aria-label="Nothing fits" marginTop="4">
          <Heading>Nothing fits. What would have to give</Heading>
          <ul>
            {sizing.obstacles.map((obstacle) => (
              <Words as="li" key={JSON.stringify(obstacle.text)} display="block" marginTop="2">
                <Sentence text={obstacle.text} />
              </Words>
            ))}
          </ul>
        </Box>
      )}
      <Box marginTop="4">
        {[...sizing.taken, sizing.caution].map((text) => (
          <Words key={JSON.stringify(text)} size="small" tone="quiet" display="block">
            <Sentence text={text} />
          </Words>
        ))}
        <Words size="small" tone="quiet" display="block">
          {counted(sizing.combinations, 'combination was', 'combinations were')} looked at.
        </Words>
      </Box>
    </>
  );
}
