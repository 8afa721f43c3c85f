import type { UseQueryResult } from '@tanstack/react-query';
import type { ReactNode } from 'react';
import { Box, Words } from '../primitives';

/** A picture beside a station's fields: its room is kept while it is on its way. */
export function Figure<T>({
  found,
  height,
  children,
}: {
  readonly found: UseQueryResult<T, Error>;
  /** Room that it takes at the reference width, px. */
  readonly height: number;
  readonly children: (data: T) => ReactNode;
}) {
  return (
    <Box minHeight={`${height}px`} aria-busy={found.isPlaceholderData} marginTop="2">
      {found.data !== undefined && children(found.data)}
      {found.isError && (
        <Words size="small" tone="fails">
          This cannot be drawn: {found.error.message}
        </Words>
      )}
    </Box>
  );
}
