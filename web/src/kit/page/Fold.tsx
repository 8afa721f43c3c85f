import { type ComponentProps, type ReactNode, useState } from 'react';
import { Box } from '../primitives';

/** What folds open on request. What lies in it is drawn once it has been opened: most never are. */
export function Fold({
  title,
  bar,
  children,
  ...more
}: {
  readonly title: ReactNode;
  /** How its title's line differs. */
  readonly bar?: Omit<ComponentProps<typeof Box>, 'as' | 'children'> &
    Readonly<Record<`data-${string}`, string>>;
  readonly children: ReactNode;
} & Omit<ComponentProps<typeof Box>, 'as' | 'title' | 'children'>) {
  const [opened, setOpened] = useState(false);
  return (
    <Box
      {...more}
      as="details"
      onToggle={(event) => event.currentTarget === event.target && setOpened(true)}
    >
      <Box as="summary" cursor="pointer" minHeight="target" paddingBlock="2" {...bar}>
        {title}
      </Box>
      {opened && children}
    </Box>
  );
}
