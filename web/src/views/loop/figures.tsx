/** What a part of the loop is, as it is written on it. */

import { Quantity } from '../../kit/words/Quantity';
import type { Variant } from '../../model/api/types';
import { useTaken } from '../../model/save/useTaken';

/** The pressure that the cap holds. */
export function CapPressure() {
  return <Quantity value={useTaken('cap/pressure_kpa')} kind="pressure" none="–" />;
}

/** What the system is filled with. */
export function Fill({ of }: { readonly of: Variant }) {
  const strength = useTaken('coolant/glycol_vol_share');
  const kind = of.coolant?.kind ?? 'ethylene_glycol';
  if (kind === 'water') return 'water';
  if (kind === 'waterless') return 'waterless glycol';
  return (
    <>
      <Quantity value={strength} kind="share" none="–" /> glycol
    </>
  );
}
