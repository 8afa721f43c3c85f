import type { ScaleLinear } from 'd3-scale';
import { useRef } from 'react';
import { Path, Rect } from '../../kit/shapes';
import type { Evaluation } from '../../model/api/types';
import { useSession } from '../../model/save/context';
import { formatQuantity } from '../../model/units/format';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { type Handle, handlesOf, settable } from './handles';

const REACH = 44;

/** Grips at the bar: drag them, or move them with the arrow keys. */
export function Handles({
  evaluation,
  y,
  x,
}: {
  readonly evaluation: Evaluation;
  readonly y: ScaleLinear<number, number>;
  readonly x: number;
}) {
  const units = useUnits((u) => u.units);
  const variant = useSession((s) => s.variant);
  const setValue = useSession((s) => s.setValue);
  const unit = shownUnit('temperature', units);
  // While a grip is dragged the scale stays as it was when the drag began.
  const held = useRef<{ handle: Handle; from: number; scale: ScaleLinear<number, number> } | null>(
    null,
  );

  function set(handle: Handle, celsius: number) {
    const next = settable(handle, celsius, unit);
    if (next !== handle.value) setValue(`/variants/${variant}/${handle.field}`, next);
  }

  return (
    <>
      {handlesOf(evaluation.ladder).map((handle) => {
        const at = y(handle.value);
        return (
          <g
            key={handle.field}
            role="slider"
            tabIndex={0}
            aria-label={handle.label}
            aria-orientation="vertical"
            aria-valuemin={handle.low}
            aria-valuemax={handle.high}
            aria-valuenow={handle.value}
            aria-valuetext={formatQuantity(handle.value, 'temperature', units)}
            data-handle={handle.field}
            style={{ cursor: 'ns-resize', touchAction: 'none' }}
            onKeyDown={(event) => {
              const step = { ArrowUp: 1, ArrowDown: -1, PageUp: 5, PageDown: -5 }[event.key];
              if (step === undefined) return;
              event.preventDefault();
              set(handle, unit.toDocument(unit.fromDocument(handle.value) + step));
            }}
            onPointerDown={(event) => {
              event.currentTarget.setPointerCapture(event.pointerId);
              held.current = { handle, from: event.clientY - at, scale: y.copy() };
            }}
            onPointerMove={(event) => {
              if (held.current?.handle.field !== handle.field) return;
              const { from, scale } = held.current;
              set(handle, scale.invert(event.clientY - from));
            }}
            // However the pointer is lost: let go, called away by the system, or taken by a scroll.
            onLostPointerCapture={() => {
              held.current = null;
            }}
            onPointerCancel={() => {
              held.current = null;
            }}
          >
            <Rect x={x - 6} y={at - REACH / 2} width={REACH} height={REACH} fill="transparent" />
            <Path
              d={`M${x} ${at}l9 -6v12z`}
              fill="accent"
              stroke="ground"
              strokeWidth="1"
              strokeLinejoin="round"
            />
          </g>
        );
      })}
    </>
  );
}
