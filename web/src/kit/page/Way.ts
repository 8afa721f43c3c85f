import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';

/** A link that stands by itself, large enough to hit. */
export const Way = chakra(Link, {
  base: {
    minHeight: 'target',
    minWidth: 'target',
    display: 'inline-flex',
    alignItems: 'center',
    color: 'accent',
    fontWeight: 'strong',
    textDecoration: 'none',
    _hover: { textDecoration: 'underline' },
  },
});
