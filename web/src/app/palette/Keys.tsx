import { chakra } from '@chakra-ui/react';
import type { Command } from './commands';

const Key = chakra('kbd', {
  base: {
    fontFamily: 'body',
    textStyle: 'small',
    fontWeight: 'strong',
    border: '1px solid',
    borderColor: 'edge',
    borderRadius: 'soft',
    paddingInline: '2',
    whiteSpace: 'nowrap',
  },
});

/** The keys of a command, as they are written on them. */
export function Keys({ of }: { readonly of: Command }) {
  return of.keys ? <Key>{of.keys.replace('Escape', 'Esc')}</Key> : null;
}
