import { Field } from '../bench/Field';
import { Box, Grid, Paragraph, Title } from '../theme/primitives';
import { useSession } from './context';

/** A build that is still being described: the few values without which there is no answer. */
export function Needed() {
  const paths = useSession((s) => s.problems.map((p) => p.path).join(' '));
  const texts = useSession((s) => Object.keys(s.texts).join(' '));
  const wanted = [...new Set([...paths.split(' '), ...texts.split(' ')])]
    .filter((path) => path.startsWith('/variants/'))
    .sort(byStation);
  return (
    <Box
      as="section"
      aria-label="What is needed"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="5"
    >
      <Title>What an answer needs</Title>
      <Paragraph tone="quiet" marginBlock="2">
        {wanted.length === 1 ? 'This last value' : `These ${wanted.length} values`} cannot be
        guessed honestly. Everything else has a default that is marked, and can wait. Type any unit:
        150 hp, 22 in, 2.5 L.
      </Paragraph>
      <Grid
        gridTemplateColumns={{ base: 'repeat(2, minmax(0,1fr))', lg: 'repeat(3, minmax(0,1fr))' }}
        gap="5"
        marginTop="4"
      >
        {wanted.map((path) => (
          <Field key={path} path={path} />
        ))}
      </Grid>
    </Box>
  );
}

function byStation(a: string, b: string): number {
  const order = ['displacement', 'rated_power', 'width', 'height', 'depth'];
  const rank = (path: string) => order.findIndex((word) => path.includes(word));
  return rank(a) - rank(b);
}
