import { memo, useState } from 'react';
import { Brand } from '../kit/page/Brand';
import { usePhone } from '../kit/page/usePhone';
import { Box, Button, HiddenText, Input, Row, Words } from '../kit/primitives';
import { useSession } from '../model/save/context';
import type { SaveState } from '../model/save/state';
import { Boils } from './Boils';
import { Preferences } from './Preferences';
import { SiteField } from './SiteField';
import type { SheetName } from './useCommands';

const SAVE_WORDS: Record<SaveState, string> = {
  saved: 'saved',
  waiting: 'saving…',
  saving: 'saving…',
  away: 'not saved: server away',
  refused: 'not saved',
  conflict: 'not saved: two versions',
};

export const Header = memo(function Header({
  onHistory,
  onSheet,
}: {
  readonly onHistory: () => void;
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
  const phone = usePhone();
  const [more, setMore] = useState(false);
  const trouble = !['saved', 'waiting', 'saving'].includes(saveState);
  const words = `${SAVE_WORDS[saveState]}${saveState === 'saved' ? ` ${time}` : ''}`;
  const saved = (
    <Button
      look="bare"
      aria-label={`${words} history of the build`}
      paddingInline="1"
      minWidth={{ base: '0', md: '116px' }}
      textAlign="right"
      textStyle="small"
      color={saveState === 'saved' ? 'quiet' : 'tight'}
      data-save={saveState}
      onClick={onHistory}
    >
      {words}{' '}
      <Words size="small" tone="accent">
        history
      </Words>
    </Button>
  );
  const settings = (
    <>
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
    </>
  );
  return (
    <Box
      as="header"
      display="flex"
      flexWrap="wrap"
      alignItems="center"
      gap={{ base: '1', md: '2' }}
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
      <Box flex={{ base: '1 1 80px', md: '1 1 120px' }} maxWidth={{ md: '220px' }} minWidth="0">
        <Input
          aria-label="Name of the build"
          value={name}
          maxLength={120}
          border="none"
          background="transparent"
          textStyle={{ base: 'strong', md: 'large' }}
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
      </Row>
      {phone ? (
        <>
          <Boils />
          <Button
            look="bare"
            aria-expanded={more}
            aria-label="Air, units and more"
            minWidth="target"
            onClick={() => setMore(!more)}
          >
            ⋯
          </Button>
          {(more || trouble) && (
            <Row flexWrap="wrap" gap="2" width="100%" paddingBottom="1">
              {more && settings}
              {saved}
            </Row>
          )}
        </>
      ) : (
        <>
          <Box flex="1" />
          <Boils />
          {settings}
          {saved}
        </>
      )}
      <HiddenText role="status" aria-label="Saving">
        {trouble ? SAVE_WORDS[saveState] : ''}
      </HiddenText>
    </Box>
  );
});
