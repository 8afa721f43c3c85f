import { TickField } from '../../kit/field/Labelled';
import { Dialog } from '../../kit/overlay/Dialog';
import { useKeys } from '../../kit/page/keys';
import { Box, Heading, Words } from '../../kit/primitives';
import type { Command } from './commands';
import { Keys } from './Keys';

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
      <TickField label="Single letters are commands" checked={single} onChange={turn} />
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
                    <Keys of={command} />
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
