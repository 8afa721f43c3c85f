import { useEffect, useRef, useState } from 'react';
import { Field } from '../../kit/field/Field';
import { usePhone } from '../../kit/page/usePhone';
import { Box, Button, Grid, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import type { SessionState } from '../../model/save/state';

const ORDER = ['displacement', 'rated_power', 'width', 'height', 'depth'];

/** A build that is still being described: the few values without which there is no answer.
 *
 * A field stays once it was asked for, so that nothing moves away under the hand that types. */
export function Needed({ onDone }: { readonly onDone: () => void }) {
  const missing = useSession((s) => (s.needed ? stillOpen(s).join(' ') : ''));
  const refused = useSession((s) => (s.needed ? null : s.problem));
  const answered = useSession((s) => s.evaluation !== null && s.current);
  const [asked, setAsked] = useState<readonly string[]>([]);
  const fresh = missing.split(' ').filter((path) => path !== '' && !asked.includes(path));
  if (fresh.length > 0) setAsked([...asked, ...fresh].sort(byStation));
  const open = missing === '' ? 0 : missing.split(' ').length;
  const form = useRef<HTMLFormElement>(null);
  const phone = usePhone();
  const there = asked.length > 0;
  // Who has just begun a build types on; a hand that is elsewhere, and a phone's keyboard, are left alone.
  useEffect(() => {
    if (there && !phone && document.activeElement?.matches('body, main')) toOpen(form.current);
  }, [there, phone]);
  // Pressed before the answer is there: shown once it is, unless something is changed until then.
  const [pressed, setPressed] = useState(false);
  useEffect(() => {
    if (pressed && answered) onDone();
  }, [pressed, answered, onDone]);
  return (
    <Box
      as="section"
      aria-label="What is needed"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="5"
    >
      <Title>What an answer needs</Title>
      <Paragraph tone="quiet" marginBlock="2">
        These values cannot be guessed honestly. Everything else has a default that is marked, and
        can wait. Type any unit: 150 hp, 22 in, 2.5 L.
      </Paragraph>
      <form
        ref={form}
        noValidate
        onChange={() => setPressed(false)}
        onSubmit={(event) => {
          event.preventDefault();
          if (open > 0) toOpen(form.current);
          else setPressed(true);
        }}
      >
        <Grid
          gridTemplateColumns={{ base: 'repeat(2, minmax(0,1fr))', lg: 'repeat(3, minmax(0,1fr))' }}
          gap="5"
          marginTop="4"
        >
          {asked.map((path) => (
            <Field key={path} path={path} />
          ))}
        </Grid>
        <Row marginTop="5">
          <Button type="submit" look="main">
            See the answer
          </Button>
          <Words tone="quiet" aria-live="polite">
            {answered
              ? 'That is enough for an answer.'
              : open > 0
                ? `${open} still to fill.`
                : (refused ?? (pressed && 'Working it out …'))}
          </Words>
        </Row>
      </form>
    </Box>
  );
}

/** To the first field that is empty, or has something that cannot be taken. */
function toOpen(form: HTMLFormElement | null) {
  const fields = [...(form?.querySelectorAll('input') ?? [])];
  const open = (field: HTMLInputElement) =>
    field.value === '' || field.getAttribute('aria-invalid') === 'true';
  fields.find(open)?.focus();
}

/** What was found missing and has not been filled in since. */
function stillOpen({ problems, build }: Pick<SessionState, 'problems' | 'build'>): string[] {
  return problems.map((p) => p.path).filter((path) => (valueAt(build, path) ?? null) === null);
}

function byStation(a: string, b: string): number {
  const rank = (path: string) => ORDER.findIndex((word) => path.includes(word));
  return rank(a) - rank(b);
}
