import { formatQuantity, shown } from '../../model/units/format';
import { useUnits } from '../../model/units/store';

interface Props {
  readonly value: number | null | undefined;
  readonly kind: string;
  /** What to write where there is no value. */
  readonly none?: string;
  /** Leave the unit out where a heading names it. */
  readonly bare?: boolean;
}

/** A quantity in the reader's units. */
export function Quantity({ value, kind, none = 'none', bare = false }: Props) {
  const units = useUnits((choice) => choice.units);
  if (value === null || value === undefined) return <>{none}</>;
  if (bare) return <>{shown(value, kind, units).number}</>;
  // A number and its unit stay on one line; words may break.
  if (kind === 'chance') return <>{formatQuantity(value, kind, units)}</>;
  return <>{formatQuantity(value, kind, units).replaceAll(' ', '\u00a0')}</>;
}
