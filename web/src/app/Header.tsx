import { chakra } from '@chakra-ui/react';
import { memo } from 'react';
import { Link } from 'react-router';
import { Box, Button, Input, Row, Select, Words } from '../kit/primitives';
import { useMode } from '../kit/theme/mode';
import { useSession } from '../model/save/context';
import type { SaveState } from '../model/save/session';
import { SiteField } from './SiteField';
import { UnitSetSelect } from './UnitsDialog';
import type { SheetName } from './useCommands';

const SAVE_WORDS: Record<SaveState, string> = {
  saved: 'saved',
  waiting: 'saving…',
  saving: 'saving…',
  away: 'not saved: server away',
  refused: 'not saved',
  conflict: 'not saved: two versions',
};

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

/** Units and light or dark, on every page. */
export function Preferences() {
  const mode = useMode();
  return (
    <Row gap="2">
      <UnitSetSelect />
      <Select
        aria-label="Light or dark"
        width="auto"
        value={mode.mode}
        onChange={(event) => mode.choose(event.target.value as 'system' | 'light' | 'dark')}
      >
        <option value="system">auto</option>
        <option value="light">light</option>
        <option value="dark">dark</option>
      </Select>
    </Row>
  );
}

export const Header = memo(function Header({
  onHistory,
  onSize,
  onDrive,
  onSheet,
}: {
  readonly onHistory: () => void;
  readonly onSize: () => void;
  readonly onDrive: () => void;
  readonly onSheet: (sheet: SheetName) => void;
}) {
  const name = useSession((s) => s.build.name);
  const workshop = useSession((s) => s.build.workshop);
  const setValue = useSession((s) => s.setValue);
  const undo = useSession((s) => s.undo);
  const redo = useSession((s) => s.redo);
  const canUndo = useSession((s) => s.past.before.length > 0);
  const canRedo = useSession((s) => s.past.after.length > 0);
  const whatIf = useSession((s) => s.whatIf);
  const site = useSession((s) => s.build.site);
  const tryAt = useSession((s) => s.tryAt);
  const saveState = useSession((s) => s.saveState);
  const savedAt = useSession((s) => s.savedAt);
  const time = new Date(savedAt).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
  return (
    <Box
      as="header"
      display="flex"
      flexWrap="wrap"
      alignItems="center"
      gap="2"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="1"
      borderBottom="1px solid"
      borderColor="rule"
    >
      <Brand />
      {workshop && (
        <Words tone="quiet" whiteSpace="nowrap" display={{ base: 'none', xl: 'inline' }}>
          {workshop}
        </Words>
      )}
      <Box flex="1 1 120px" maxWidth="220px">
        <Input
          aria-label="Name of the build"
          value={name}
          maxLength={120}
          border="none"
          background="transparent"
          textStyle="large"
          paddingInline="2"
          aria-invalid={name.trim() === '' || undefined}
          onChange={(event) => setValue('/name', event.target.value)}
        />
      </Box>
      <Row gap="0">
        <Button
          look="bare"
          disabled={!canUndo}
          aria-label="Undo"
          title="Undo: Ctrl+Z"
          minWidth="target"
          onClick={undo}
        >
          ↶
        </Button>
        <Button
          look="bare"
          disabled={!canRedo}
          aria-label="Redo"
          title="Redo: Ctrl+Shift+Z"
          minWidth="target"
          onClick={redo}
        >
          ↷
        </Button>
        <Button title="Z" marginLeft="2" paddingInline="3" onClick={onSize}>
          Size it
        </Button>
        <Button title="G" marginLeft="2" paddingInline="3" onClick={onDrive}>
          Drive it
        </Button>
      </Row>
      <Box flex="1" />
      <SiteField path="/site/ambient_c" />
      <SiteField path="/site/altitude_m" />
      <Button
        look="bare"
        title="W"
        aria-pressed={whatIf !== null}
        onClick={() => tryAt(whatIf ? null : (site ?? null))}
      >
        What if
      </Button>
      <Preferences />
      <Button look="bare" title="?" aria-label="Keys" onClick={() => onSheet('keys')}>
        ?
      </Button>
      <Button
        look="bare"
        title="History of the build"
        paddingInline="1"
        minWidth="116px"
        textAlign="right"
        textStyle="small"
        color={saveState === 'saved' ? 'quiet' : 'tight'}
        aria-live="polite"
        data-save={saveState}
        onClick={onHistory}
      >
        {SAVE_WORDS[saveState]}
        {saveState === 'saved' ? ` ${time}` : ''}
      </Button>
    </Box>
  );
});
