import { chakra } from '@chakra-ui/react';
import { useEffect, useId, useState } from 'react';
import { Dialog } from '../../kit/overlay/Dialog';
import { Box, Input, Words } from '../../kit/primitives';
import { type Command, matching } from './commands';
import { Keys } from './Keys';

const Choice = chakra('li', {
  base: {
    display: 'flex',
    justifyContent: 'space-between',
    alignItems: 'center',
    gap: '3',
    minHeight: 'target',
    paddingInline: '3',
    borderRadius: 'soft',
    cursor: 'pointer',
    _selected: { background: 'accentSoft' },
  },
});

/** Any command by a few letters of its name. Its field is our own: Ark's combobox writes into the field a frame later, and loses
 * letters that are typed faster than the page is drawn. */
export function Palette({
  commands,
  onClose,
}: {
  readonly commands: readonly Command[];
  readonly onClose: () => void;
}) {
  const id = useId();
  const [typed, setTyped] = useState('');
  const [at, setAt] = useState(0);
  const found = matching(commands, typed);
  const chosen = Math.min(at, found.length - 1);

  function run(command: Command | undefined) {
    if (!command) return;
    onClose();
    command.run();
  }

  useEffect(() => {
    document.getElementById(`${id}-${chosen}`)?.scrollIntoView({ block: 'nearest' });
  }, [id, chosen]);

  return (
    <Dialog title="What to do" onClose={onClose}>
      <Input
        role="combobox"
        aria-label="Command"
        aria-expanded="true"
        aria-controls={`${id}-list`}
        aria-activedescendant={found.length > 0 ? `${id}-${chosen}` : undefined}
        placeholder="station, case, variant, lever, file …"
        value={typed}
        onChange={(event) => {
          setTyped(event.target.value);
          setAt(0);
        }}
        onKeyDown={(event) => {
          if (event.key === 'ArrowDown') setAt(Math.min(chosen + 1, found.length - 1));
          else if (event.key === 'ArrowUp') setAt(Math.max(chosen - 1, 0));
          else if (event.key === 'Enter') run(found[chosen]);
          else return;
          event.preventDefault();
        }}
      />
      <Box
        as="ul"
        role="listbox"
        id={`${id}-list`}
        aria-label="Commands"
        marginTop="2"
        maxHeight="52vh"
        overflowY="auto"
      >
        {found.map((command, i) => (
          <Choice
            key={`${command.group} ${command.name}`}
            id={`${id}-${i}`}
            role="option"
            aria-selected={i === chosen}
            onMouseMove={() => setAt(i)}
            onClick={() => run(command)}
          >
            <span>
              <Words size="small" tone="quiet">
                {command.group}{' '}
              </Words>
              <Words fontWeight="firm">{command.name}</Words>
            </span>
            <Keys of={command} />
          </Choice>
        ))}
      </Box>
      {found.length === 0 && (
        <Words tone="quiet" role="status">
          Nothing is called that.
        </Words>
      )}
    </Dialog>
  );
}
