import { useState } from 'react';
import { Field } from '../../kit/field/Field';
import { Box, Button, Grid, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { useSession } from '../../model/save/context';

const ORDER = ['displacement', 'rated_power', 'width', 'height', 'depth'];

/** A build that is still being described: the few values without which there is no answer.
 *
 * A field stays once it was asked for, so that nothing moves away under the hand that types. */
export function Needed({ onDone }: { readonly onDone: () => void }) {
  const missing = useSession((s) => (s.needed ? s.problems.map((p) => p.path).join(' ') : ''));
  const answered = useSession((s) => s.evaluation !== null && s.current);
  const [asked, setAsked] = useState<readonly string[]>([]);
  const fresh = missing.split(' ').filter((path) => path !== '' && !asked.includes(path));
  if (fresh.length > 0) setAsked([...asked, ...fresh].sort(byStation));
  const open = missing === '' ? 0 : missing.split(' ').length;
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
        noValidate
        onSubmit={(event) => {
          event.preventDefault();
          if (answered) onDone();
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
          <Button type="submit" look="main" disabled={!answered}>
            See the answer
          </Button>
          <Words tone="quiet" aria-live="polite">
            {answered ? 'That is enough for an answer.' : open > 0 && `${open} still to fill.`}
          </Words>
        </Row>
      </form>
    </Box>
  );
}

function byStation(a: string, b: string): number {
  const rank = (path: string) => ORDER.findIndex((word) => path.includes(word));
  return rank(a) - rank(b);
}
