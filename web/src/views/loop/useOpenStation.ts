import { useCallback } from 'react';
import type { StationName } from '../../model/document/stations';
import { usePlaces } from '../../model/places';

/** Opens a station's editor. */
export function useOpenStation() {
  const places = usePlaces();
  return useCallback((station: StationName) => places.to(`stations/${station}`), [places]);
}
