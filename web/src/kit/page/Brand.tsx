import { chakra } from '@chakra-ui/react';
import { Link } from 'react-router';
import { Words } from '../primitives';

const BrandLink = chakra(Link, {
  base: {
    textDecoration: 'none',
    display: 'inline-flex',
    alignItems: 'center',
    minHeight: 'target',
  },
});

export function Brand() {
  return (
    <BrandLink to="/" aria-label="Ebbrin, all builds">
      <Words size="large" tone="accent">
        ebbrin
      </Words>
    </BrandLink>
  );
}
