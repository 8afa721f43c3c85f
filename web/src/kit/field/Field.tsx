import { memo, useId } from 'react';
import { fieldSpec, isRelevant, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { shown } from '../../model/units/format';
import { shownUnit, type Units } from '../../model/units/quantities';
import { Box, FieldUnit, Input, Row, Select, Tick, Words } from '../primitives';
import { CurveField } from './CurveField';
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

function Label({ htmlFor, path }: { readonly htmlFor: string; readonly path: string }) {
  return (
    <label htmlFor={htmlFor}>
      <Words size="body" fontWeight="firm">
        {fieldSpec(path).title}
      </Words>
    </label>
  );
}

function Help({
  id,
  path,
  extra,
  left,
}: {
  readonly id: string;
  readonly path: string;
  readonly extra?: string | null;
  /** What is taken where it is left open, in words. */
  readonly left?: string | null;
}) {
  return (
    <Words id={id} size="small" tone="quiet" display="block">
      {extra && (
        <Words size="small" tone="accent" fontWeight="firm">
          {extra}{' '}
        </Words>
      )}
      {fieldSpec(path).description}
      {left && ` Left open: ${left}.`}
    </Words>
  );
}

function NumberField({ path }: { readonly path: string }) {
  const id = useId();
  const spec = fieldSpec(path);
  const { text, wrong, change, leave, value, units } = useNumberText(path);
  const problem = useSession((s) => s.problems.find((p) => p.path === path)?.message ?? null);
  const assumed = useSession((s) => s.evaluation?.assumed.find((a) => a.path === path)?.value);
  const message = wrong ?? (value === null && spec.needed ? null : problem);
  return (
    <Box>
      <Label htmlFor={id} path={path} />
      <Box position="relative" marginBlock="1">
        <Input
          id={id}
          value={text}
          autoComplete="off"
          placeholder={placeholder(path, assumed, units)}
          aria-invalid={message !== null || undefined}
          aria-describedby={`${id}-help${message ? ` ${id}-wrong` : ''}`}
          paddingRight="60px"
          data-path={path}
          onChange={(event) => change(event.target.value)}
          onBlur={leave}
        />
        <FieldUnit aria-hidden="true">{shownUnit(spec.quantity, units).symbol}</FieldUnit>
      </Box>
      {message && (
        <Words
          id={`${id}-wrong`}
          role="alert"
          size="small"
          tone="fails"
          fontWeight="firm"
          display="block"
        >
          {message}
        </Words>
      )}
      <Help
        id={`${id}-help`}
        path={path}
        extra={spec.needed && value === null ? 'Needed.' : null}
        left={
          value === null && assumed === undefined && typeof spec.assumed === 'string'
            ? spec.assumed
            : null
        }
      />
    </Box>
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
  const id = useId();
  const spec = fieldSpec(path);
  const open = spec.quantity === 'fact';
  const value = useSession((s) => valueAt(s.build, path)) as string | null | undefined;
  const setValue = useSession((s) => s.setValue);
  return (
    <Box>
      <Label htmlFor={id} path={path} />
      <Select
        id={id}
        marginBlock="1"
        value={value ?? ''}
        aria-describedby={`${id}-help`}
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
      <Help id={`${id}-help`} path={path} />
    </Box>
  );
}

function SwitchField({ path }: { readonly path: string }) {
  const id = useId();
  const value = useSession((s) => valueAt(s.build, path)) as boolean;
  const setValue = useSession((s) => s.setValue);
  return (
    <Box>
      <Row gap="2" minHeight="target">
        <Tick
          id={id}
          type="checkbox"
          checked={value}
          aria-describedby={`${id}-help`}
          data-path={path}
          onChange={(event) => setValue(path, event.target.checked)}
        />
        <Label htmlFor={id} path={path} />
      </Row>
      <Help id={`${id}-help`} path={path} />
    </Box>
  );
}
