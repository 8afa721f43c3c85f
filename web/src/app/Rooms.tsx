import { chakra } from '@chakra-ui/react';
import { Suspense } from 'react';
import { NavLink, Outlet, useLocation } from 'react-router';
import { Brand } from '../kit/page/Brand';
import { ErrorBoundary } from '../kit/page/ErrorBoundary';
import { SkipLink } from '../kit/page/SkipLink';
import { Box, Row, Words } from '../kit/primitives';
import { Boils } from './Boils';
import { Preferences } from './Preferences';
import { useScroll } from './useScroll';

const Room = chakra(NavLink, {
  base: {
    color: 'ink',
    minHeight: 'target',
    display: 'inline-flex',
    alignItems: 'center',
    paddingInline: '2',
    whiteSpace: 'nowrap',
    fontWeight: 'plain',
    textDecoration: 'none',
    _hover: { textDecoration: 'underline' },
    '&[aria-current=page]': { fontWeight: 'strong', color: 'accent' },
  },
});

/** The frame of the pages outside a build. */
export function Rooms() {
  const { pathname } = useLocation();
  useScroll(pathname);
  return (
    <Box minHeight="100%" display="flex" flexDirection="column">
      <SkipLink at={pathname} />
      <Row
        as="header"
        justifyContent="space-between"
        flexWrap="wrap"
        paddingInline={{ base: '3', lg: '10' }}
        paddingBlock="2"
        borderBottom="1px solid"
        borderColor="rule"
      >
        <Row gap={{ base: '1', md: '4' }}>
          <Brand />
          <Row as="nav" gap="0" aria-label="Rooms">
            <Room to="/" end>
              Builds
            </Room>
            <Room to="/shelf">Shelf</Room>
            <Room to="/cause">Find the cause</Room>
          </Row>
        </Row>
        <Row gap="1" flexWrap="wrap" justifyContent="flex-end">
          <Boils />
          <Preferences />
        </Row>
      </Row>
      <Box
        as="main"
        id="main"
        tabIndex={-1}
        outline="none"
        width="100%"
        maxWidth="1080px"
        marginInline="auto"
        paddingInline={{ base: '3', lg: '8' }}
        paddingBlock="8"
        flex="1"
      >
        <ErrorBoundary at={pathname}>
          <Suspense fallback={null}>
            <Outlet />
          </Suspense>
        </ErrorBoundary>
      </Box>
      <Box as="footer" paddingInline={{ base: '3', lg: '10' }} paddingBlock="4">
        <Words size="small" tone="quiet">
          A design aid. Tested parts, local codes and a licensed technician come first. Never open a
          hot cooling system.
        </Words>
      </Box>
    </Box>
  );
}
