import { memo } from 'react';
import { fieldSpec, isRelevant, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { shown } from '../../model/units/format';
import { inUnits } from '../../model/units/help';
import { shownUnit, type Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { Input, Select, Words } from '../primitives';
import { CurveField } from './CurveField';
import { Labelled, TickField } from './Labelled';
import { useNumberText } from './useNumberText';

/** The editor of one field of the document, whatever its kind; nothing where the field does not matter. */
export const Field = memo(function Field({ path }: { readonly path: string }) {
  const relevant = useSession((s) => isRelevant(s.build, path));
  if (!relevant) return null;
  const spec = fieldSpec(path);
  if (spec.quantity === 'choice' || spec.quantity === 'fact') return <ChoiceField path={path} />;
  if (spec.quantity === 'switch') return <SwitchField path={path} />;
  if (spec.quantity === 'curve') return <CurveField path={path} />;
  return <NumberField path={path} />;
});

/** What a field is for, what is needed, and what is taken where it is left open, in words. */
function Help({
  path,
  needed = false,
  left,
}: {
  readonly path: string;
  readonly needed?: boolean;
  readonly left?: string | null;
}) {
  const units = useUnits((u) => u.units);
  return (
    <>
      {needed && (
        <Words size="small" tone="accent" fontWeight="firm">
          Needed.{' '}
        </Words>
      )}
      {inUnits(fieldSpec(path).description, units)}
      {left && ` Left open: ${inUnits(left, units)}.`}
    </>
  );
}

function NumberField({ path }: { readonly path: string }) {
  const spec = fieldSpec(path);
  const { text, wrong, change, leave, value, units } = useNumberText(path);
  const problem = useSession((s) => s.problems.find((p) => p.path === path)?.message ?? null);
  const assumed = useSession((s) => s.evaluation?.assumed.find((a) => a.path === path)?.value);
  const open = value === null && assumed === undefined && typeof spec.assumed === 'string';
  return (
    <Labelled
      label={inUnits(spec.title, units)}
      unit={shownUnit(spec.quantity, units).symbol}
      wrong={wrong ?? (value === null && spec.needed ? null : problem && inUnits(problem, units))}
      help={
        <Help
          path={path}
          needed={spec.needed && value === null}
          left={open ? (spec.assumed as string) : null}
        />
      }
    >
      <Input
        value={text}
        autoComplete="off"
        placeholder={placeholder(path, assumed, units)}
        paddingRight="60px"
        data-path={path}
        onChange={(event) => change(event.target.value)}
        onBlur={leave}
      />
    </Labelled>
  );
}

function placeholder(path: string, assumed: unknown, units: Units): string {
  const spec = fieldSpec(path);
  if (spec.nullMeans) return spec.nullMeans;
  const taken = typeof assumed === 'number' ? assumed : spec.assumed;
  // The unit stands at the end of the field already; what takes words is said below it.
  if (typeof taken === 'number') return `don’t know: ${shown(taken, spec.quantity, units).number}`;
  return typeof taken === 'string' ? 'don’t know' : '';
}

function ChoiceField({ path }: { readonly path: string }) {
  const spec = fieldSpec(path);
  const open = spec.quantity === 'fact';
  const value = useSession((s) => valueAt(s.build, path)) as string | null | undefined;
  const setValue = useSession((s) => s.setValue);
  return (
    <Labelled label={spec.title} help={<Help path={path} />}>
      <Select
        value={value ?? ''}
        data-path={path}
        onChange={(event) => setValue(path, event.target.value || null)}
      >
        {open && <option value="">don’t know</option>}
        {Object.entries(spec.labels ?? {}).map(([key, label]) => (
          <option key={key} value={key}>
            {label}
          </option>
        ))}
      </Select>
    </Labelled>
  );
}

function SwitchField({ path }: { readonly path: string }) {
  const value = useSession((s) => valueAt(s.build, path)) as boolean;
  const setValue = useSession((s) => s.setValue);
  return (
    <TickField
      label={fieldSpec(path).title}
      help={<Help path={path} />}
      checked={value}
      data-path={path}
      onChange={(event) => setValue(path, event.target.checked)}
    />
  );
}
