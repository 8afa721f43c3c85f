import { chakra } from '@chakra-ui/react';
import { useEffect, useId, useState } from 'react';
import { Dialog } from '../../kit/overlay/Dialog';
import { useKeys } from '../../kit/page/keys';
import { Box, Heading, Input, Tick, Words } from '../../kit/primitives';
import { type Command, keysOf, matching } from './commands';

const Keys = chakra('kbd', {
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

const shownKeys = (command: Command) => command.keys?.replace('Escape', 'Esc');

/** Runs the command whose keys are pressed, unless a field is being typed in or a sheet is open. */
export function useShortcuts(commands: readonly Command[]) {
  const single = useKeys((k) => k.single);
  useEffect(() => {
    const press = (event: KeyboardEvent) => {
      const target = event.target as HTMLElement | null;
      const typing = target?.matches(
        'input:not([type=range]):not([type=checkbox]), textarea, select',
      );
      const keys = keysOf(event);
      const command = commands.find((entry) => entry.keys === keys);
      // In a field only these two mean something: everything else is text, or the field's own undo.
      if (
        !command ||
        (!single && keys.length === 1) ||
        (typing && keys !== 'Ctrl+K' && keys !== 'Escape') ||
        document.querySelector('dialog[open]')
      )
        return;
      event.preventDefault();
      // What is typed next belongs to the page, not to a field that is about to go.
      // The palette gives the focus back when it goes.
      if (typing && keys !== 'Ctrl+K') target?.blur();
      command.run();
    };
    window.addEventListener('keydown', press);
    return () => window.removeEventListener('keydown', press);
  }, [commands, single]);
}

/** Any command by a few letters of its name. */
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
            {command.keys && <Keys>{shownKeys(command)}</Keys>}
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

/** Every key that does something. */
export function Shortcuts({
  commands,
  onClose,
}: {
  readonly commands: readonly Command[];
  readonly onClose: () => void;
}) {
  const { single, turn } = useKeys();
  const keyed = commands.filter((command) => command.keys);
  const groups = [...new Set(keyed.map((command) => command.group))];
  return (
    <Dialog title="Keys" onClose={onClose}>
      <Box as="label" display="flex" alignItems="center" gap="2" minHeight="target">
        <Tick type="checkbox" checked={single} onChange={turn} />
        <Words>Single letters are commands</Words>
      </Box>
      {groups.map((group) => (
        <Box as="section" key={group} aria-label={group} marginBottom="4">
          <Heading>{group}</Heading>
          <Box as="dl" display="grid" gridTemplateColumns="repeat(2, minmax(0,1fr))" columnGap="6">
            {keyed
              .filter((command) => command.group === group)
              .map((command) => (
                <Box
                  key={command.name}
                  display="flex"
                  justifyContent="space-between"
                  alignItems="center"
                  minHeight="34px"
                  borderTop="1px solid"
                  borderColor="rule"
                >
                  <dt>{command.name}</dt>
                  <dd>
                    <Keys>{shownKeys(command)}</Keys>
                  </dd>
                </Box>
              ))}
          </Box>
        </Box>
      ))}
      <Words size="small" tone="quiet">
        Tab walks through everything; on the ladder and on sliders the arrow keys move what has the
        focus. While a field is being typed in, keys are text.
      </Words>
    </Dialog>
  );
}
