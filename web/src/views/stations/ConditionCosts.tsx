import { Figure } from '../../kit/chart/Figure';
import { Labelled } from '../../kit/field/Labelled';
import { Box, Slider, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import type { Conditions } from '../../model/api/types';
import { fieldSpec, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { useCurves } from './useCurves';
import { useFans } from './useFans';

const MOST: Record<Conditions['conditions'][number]['field'], number> = {
  blocked_tubes_share: 0.6,
  blocked_face_share: 0.6,
  scale_mm: 0.6,
};

/** What the core's condition costs: one slider for each fault, with the heat that it takes away. */
export function ConditionCosts() {
  const found = useCurves('condition');
  const fanned = useFans() > 0;
  return (
    <Figure found={found} height={190}>
      {(conditions) => (
        <Box as="section" aria-label="What its condition costs">
          {conditions.conditions.map((fault) => (
            <Fault key={fault.field} fault={fault} />
          ))}
          <Words size="small" tone="quiet" display="block">
            Each alone against a core without it, at{' '}
            <Quantity value={conditions.at_c} kind="temperature" />, the limit
            {fanned && ', with the fan on'}; <Quantity value={conditions.heat_kw} kind="power" />{' '}
            are to be shed.
          </Words>
        </Box>
      )}
    </Figure>
  );
}

function Fault({ fault }: { readonly fault: Conditions['conditions'][number] }) {
  const variant = useSession((s) => s.variant);
  const path = `/variants/${variant}/radiator/${fault.field}`;
  const stored = useSession((s) => valueAt(s.build, path)) as number | null;
  const setValue = useSession((s) => s.setValue);
  const spec = fieldSpec(path);
  const units = useUnits((u) => u.units);
  const last = fault.points.at(-1)?.value ?? MOST[fault.field];
  const most = Math.min(MOST[fault.field], last);
  const value = stored ?? fault.value;
  return (
    <Labelled
      label={spec.title}
      css={{ '& > label': { gridColumn: { base: '1 / -1', sm: 'auto' }, fontWeight: 'plain' } }}
      gridTemplateColumns={{
        base: 'minmax(0,1fr) 64px 100px',
        sm: '132px minmax(0,1fr) 64px 108px',
      }}
      alignItems="center"
      columnGap="3"
    >
      <Slider
        min={0}
        max={most}
        step={most / 60}
        value={Math.min(value, most)}
        aria-valuetext={formatQuantity(value, spec.quantity, units)}
        onChange={(event) => setValue(path, Number(Number(event.target.value).toPrecision(3)))}
      />
      <Words fontWeight="firm" textAlign="right">
        <Quantity value={value} kind={spec.quantity} />
      </Words>
      <Words fontWeight="strong" tone={fault.cost_kw >= 0.05 ? 'fails' : 'quiet'}>
        {Math.abs(fault.cost_kw) < 0.05 ? (
          'costs nothing'
        ) : (
          <>
            {fault.cost_kw > 0 ? 'costs' : 'gains'}{' '}
            <Quantity value={Math.abs(fault.cost_kw)} kind="power" />
          </>
        )}
      </Words>
    </Labelled>
  );
}
