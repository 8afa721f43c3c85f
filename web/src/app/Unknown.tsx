import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Box, Paragraph, Title } from '../kit/primitives';

const Way = chakra(Link, {
  base: {
    color: 'accent',
    fontWeight: 'firm',
    display: 'inline-flex',
    alignItems: 'center',
    minHeight: 'target',
  },
});

/** An address at which nothing stands. */
export function Unknown({
  what,
  to,
  way,
}: {
  readonly what: string;
  readonly to: string;
  readonly way: string;
}) {
  return (
    <Box padding={{ base: '4', lg: '6' }}>
      <Title>Nothing stands at this address</Title>
      <Paragraph marginBlock="3">{what}</Paragraph>
      <Way to={to}>{way}</Way>
    </Box>
  );
}
