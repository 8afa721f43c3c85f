import { Tabs as Ark, chakra } from '@chakra-ui/react';
import type { ReactNode } from 'react';
import { Station } from '../primitives';

const List = chakra(Ark.List, { base: { display: 'flex', flexWrap: 'wrap', gap: '2' } });

/** Choices of what is shown below them: one stop of the tabulator, arrow keys between them. */
export function Tabs<T extends string>({
  label,
  of,
  value,
  onValue,
  children,
}: {
  readonly label: string;
  readonly of: readonly { readonly value: T; readonly word: ReactNode }[];
  readonly value: T;
  readonly onValue: (value: T) => void;
  /** What is shown of the chosen one. */
  readonly children: ReactNode;
}) {
  return (
    <Ark.Root value={value} onValueChange={(next) => onValue(next.value as T)}>
      <List aria-label={label} marginTop="5">
        {of.map((entry) => (
          <Ark.Trigger key={entry.value} value={entry.value} asChild>
            <Station padding="0" paddingInline="3" borderWidth="1px">
              {entry.word}
            </Station>
          </Ark.Trigger>
        ))}
      </List>
      {of.map((entry) => (
        <Ark.Content key={entry.value} value={entry.value}>
          {entry.value === value && children}
        </Ark.Content>
      ))}
    </Ark.Root>
  );
}
