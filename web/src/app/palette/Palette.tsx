import { Combobox, chakra, createListCollection } from '@chakra-ui/react';
import { useMemo, useState } from 'react';
import { Dialog } from '../../kit/overlay/Dialog';
import { Box, HiddenText, Input, Words } from '../../kit/primitives';
import { type Command, matching } from './commands';
import { Keys } from './Keys';

const Choice = chakra('div', {
  base: {
    display: 'flex',
    justifyContent: 'space-between',
    alignItems: 'center',
    gap: '3',
    minHeight: 'target',
    paddingInline: '3',
    borderRadius: 'soft',
    cursor: 'pointer',
    _highlighted: { background: 'accentSoft' },
  },
});

/** Any command by a few letters of its name. */
export function Palette({
  commands,
  onClose,
}: {
  readonly commands: readonly Command[];
  readonly onClose: () => void;
}) {
  const [typed, setTyped] = useState('');
  const found = useMemo(() => matching(commands, typed), [commands, typed]);
  const choices = useMemo(
    () =>
      createListCollection({
        items: found,
        itemToValue: (command) => `${command.group} ${command.name}`,
        itemToString: (command) => command.name,
      }),
    [found],
  );
  const [at, setAt] = useState<string | null>(null);
  // Always one of those found: the chosen one, or the first.
  const here = at !== null && choices.has(at) ? at : choices.firstValue;
  return (
    <Dialog title="What to do" onClose={onClose}>
      <Combobox.Root
        open
        collection={choices}
        inputValue={typed}
        onInputValueChange={(next) => {
          setTyped(next.inputValue);
          setAt(null);
        }}
        highlightedValue={here}
        onHighlightChange={(next) => next.highlightedValue && setAt(next.highlightedValue)}
        value={[]}
        selectionBehavior="preserve"
        onValueChange={(next) => {
          onClose();
          next.items[0]?.run();
        }}
        onOpenChange={(next) => next.reason === 'escape-key' && onClose()}
      >
        <Combobox.Label asChild>
          <HiddenText as="label">Command</HiddenText>
        </Combobox.Label>
        <Combobox.Input asChild>
          <Input placeholder="station, case, variant, lever, file …" />
        </Combobox.Input>
        <Combobox.Content asChild>
          <Box marginTop="2" maxHeight="52vh" overflowY="auto" aria-label="Commands">
            {found.map((command) => (
              <Combobox.Item key={`${command.group} ${command.name}`} item={command} asChild>
                <Choice>
                  <span>
                    <Words size="small" tone="quiet">
                      {command.group}{' '}
                    </Words>
                    <Words fontWeight="firm">{command.name}</Words>
                  </span>
                  <Keys of={command} />
                </Choice>
              </Combobox.Item>
            ))}
          </Box>
        </Combobox.Content>
      </Combobox.Root>
      {found.length === 0 && (
        <Words tone="quiet" role="status">
          Nothing is called that.
        </Words>
      )}
    </Dialog>
  );
}
