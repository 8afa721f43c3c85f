import { useId, useState } from 'react';
import { fieldSpec, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import { editable } from '../../model/units/format';
import { inUnits } from '../../model/units/help';
import { parseQuantity } from '../../model/units/parse';
import { shownUnit, type Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { Box, Button, Grid, Input, Row, Words } from '../primitives';

interface Point {
  flow_m3_per_s: number;
  pressure_pa: number;
}

const COLUMNS = [
  { key: 'flow_m3_per_s', quantity: 'airflow', title: 'Flow' },
  { key: 'pressure_pa', quantity: 'air_pressure', title: 'Pressure' },
] as const;

/** A fan's tested curve as rows of flow and pressure; "don't know" takes the generic one. */
export function CurveField({ path }: { readonly path: string }) {
  const id = useId();
  const spec = fieldSpec(path);
  const units = useUnits((u) => u.units);
  const stored = useSession((s) => valueAt(s.build, path)) as Point[] | null;
  const assumed = useSession((s) => s.evaluation?.assumed.find((a) => a.path === path)?.value) as
    | Point[]
    | undefined;
  const problem = useSession(
    (s) => s.problems.find((p) => p.path.startsWith(path))?.message ?? null,
  );
  const kept = useSession((s) => s.texts[path]);
  const setValue = useSession((s) => s.setValue);
  const setText = useSession((s) => s.setText);
  const [typing, setTyping] = useState<string[][] | null>(null);

  const points = stored ?? assumed ?? [];
  const texts =
    typing ?? (kept === undefined ? rows(points, units) : (JSON.parse(kept) as string[][]));
  const wrong = kept === undefined ? null : refusal(JSON.parse(kept) as string[][], units);
  const message = wrong ?? problem;

  function change(next: string[][]) {
    setTyping(next);
    if (refusal(next, units) !== null) {
      setText(path, JSON.stringify(next));
      return;
    }
    const value = next.map((cells) => {
      const [flow, pressure] = cells.map((text, i) =>
        parseQuantity(text, COLUMNS[i]?.quantity ?? '', units),
      );
      return {
        flow_m3_per_s: flow?.ok ? flow.value : 0,
        pressure_pa: pressure?.ok ? pressure.value : 0,
      };
    });
    setValue(path, value);
  }

  return (
    <Box gridColumn="span 2">
      <Words size="body" fontWeight="firm" id={id}>
        {spec.title}
      </Words>{' '}
      {stored === null && (
        <Words size="small" tone="accent" fontWeight="firm">
          don’t know: a generic fan of this diameter is taken
        </Words>
      )}
      <Grid
        gridTemplateColumns="repeat(2, minmax(0, 1fr)) 44px"
        gap="1"
        marginBlock="1"
        role="group"
        aria-labelledby={id}
      >
        {COLUMNS.map((column) => (
          <Words key={column.key} size="small" tone="quiet">
            {column.title}, {shownUnit(column.quantity, units).symbol}
          </Words>
        ))}
        <span />
        {texts.map((cells, row) => (
          <CurveRow
            // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place
            key={row}
            cells={cells}
            row={row}
            count={texts.length}
            onChange={(changed) => {
              const next =
                changed === null
                  ? texts.filter((_, i) => i !== row)
                  : texts.map((old, i) => (i === row ? changed : old));
              change(next);
            }}
            onLeave={() => setTyping(null)}
          />
        ))}
      </Grid>
      {message && (
        <Words role="alert" size="small" tone="fails" fontWeight="firm" display="block">
          {message}
        </Words>
      )}
      <Row gap="2">
        <Button look="bare" disabled={texts.length >= 12} onClick={() => change(withPoint(texts))}>
          + point
        </Button>
        {stored !== null && (
          <Button
            look="bare"
            onClick={() => {
              setTyping(null);
              setValue(path, null);
            }}
          >
            don’t know
          </Button>
        )}
      </Row>
      <Words size="small" tone="quiet" display="block">
        {inUnits(spec.description, units)}
      </Words>
    </Box>
  );
}

function CurveRow({
  cells,
  row,
  count,
  onChange,
  onLeave,
}: {
  readonly cells: readonly string[];
  readonly row: number;
  readonly count: number;
  readonly onChange: (cells: string[] | null) => void;
  readonly onLeave: () => void;
}) {
  return (
    <>
      {COLUMNS.map((column, i) => (
        <Input
          key={column.key}
          value={cells[i] ?? ''}
          aria-label={`${column.title}, point ${row + 1}`}
          autoComplete="off"
          onBlur={onLeave}
          onChange={(event) =>
            onChange(cells.map((old, at) => (at === i ? event.target.value : old)))
          }
        />
      ))}
      <Button
        look="bare"
        paddingInline="0"
        aria-label={`Remove point ${row + 1}`}
        disabled={count <= 2}
        onClick={() => onChange(null)}
      >
        ×
      </Button>
    </>
  );
}

function rows(points: readonly Point[], units: Units): string[][] {
  return points.map((p) => [
    editable(p.flow_m3_per_s, 'airflow', units),
    editable(p.pressure_pa, 'air_pressure', units),
  ]);
}

function withPoint(texts: string[][]): string[][] {
  const last = texts.at(-1) ?? ['0', '0'];
  // A new point goes before free air, for the person to fill in.
  return [...texts.slice(0, -1), ['', ''], last];
}

function refusal(texts: readonly string[][], units: Units): string | null {
  for (const [row, cells] of texts.entries()) {
    for (const [i, column] of COLUMNS.entries()) {
      const parsed = parseQuantity(cells[i] ?? '', column.quantity, units);
      if (!parsed.ok)
        return `Point ${row + 1}, ${column.title.toLowerCase()}: ${cells[i] === '' ? 'still empty' : parsed.message}`;
      if (parsed.value < 0)
        return `Point ${row + 1}: ${column.title.toLowerCase()} cannot be below 0.`;
    }
  }
  return null;
}
