import { type ReactNode, useState } from 'react';
import { Dialog } from '../../kit/overlay/Dialog';
import { Box, Station, Svg } from '../../kit/primitives';
import { Mark, Path, Rect } from '../../kit/shapes';
import { tone } from '../../kit/theme/temperature';
import type { CaseResult, Evaluation } from '../../model/api/types';
import { shown } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { boundOf, hottest } from '../../model/words/hottest';
import { ladderRange, spread } from './geometry';

const WIDTH = 366;
/** What a label with three figures takes. */
const LABEL = 68;

/** The ladder lying down, for a narrow screen: always in sight, and whole once it is pressed. */
export function LadderBand({
  evaluation,
  shownCase: c,
  children,
}: {
  readonly evaluation: Evaluation;
  readonly shownCase: CaseResult;
  /** The whole ladder. */
  readonly children: ReactNode;
}) {
  const units = useUnits((u) => u.units);
  const [open, setOpen] = useState(false);
  const top = hottest(c);
  const bound = boundOf(c);
  const marks = [
    { label: 'opens', value: evaluation.ladder.thermostat_opens_c },
    { label: 'limit', value: c.limit_c },
    { label: 'boils', value: c.boils_c },
  ];
  const [low, high] = ladderRange([...marks.map((mark) => mark.value), top ?? c.limit_c]);
  const x = (value: number) => 8 + ((value - low) / (high - low)) * (WIDTH - 16);
  const number = (value: number) => shown(value, 'temperature', units).number;
  const placed = spread(
    marks.map((item) => ({ item, at: x(item.value) })),
    LABEL,
    0,
    WIDTH,
  );
  return (
    <Box position="sticky" top="0" zIndex="strip" background="ground" data-print="no">
      <Station
        width="100%"
        border="none"
        borderBottom="1px solid"
        borderColor="rule"
        borderRadius="0"
        background="transparent"
        paddingInline="3"
        paddingBlock="1"
        aria-label={`Ladder: top hose ${top === null ? 'never settles' : `${bound}${number(top)}`}, limit ${number(c.limit_c)}, boils at ${number(c.boils_c)}. Open the whole ladder`}
        onClick={() => setOpen(true)}
      >
        <Svg width="100%" height="52px" viewBox={`0 0 ${WIDTH} 52`} aria-hidden="true">
          <Rect x={8} y={24} width={WIDTH - 16} height={5} fill="air" />
          {placed.map(({ item, at, label }) => (
            <g key={item.label}>
              <Path d={`M${at} 20v12L${label} 37`} stroke="edge" strokeWidth="2" fill="none" />
              <Mark x={label} y={49} textAnchor="middle" fontSize="13px">
                {`${item.label} ${number(item.value)}`}
              </Mark>
            </g>
          ))}
          {top === null && (
            <Mark x={8} y={13} weight="strong">
              top hose never settles
            </Mark>
          )}
          {top !== null && (
            <g>
              <circle
                cx={x(top)}
                cy={26.5}
                r={7}
                fill={tone(top)}
                stroke="currentColor"
                strokeWidth="2"
              />
              <Mark
                x={Math.min(Math.max(x(top), 72), WIDTH - 72)}
                y={13}
                textAnchor="middle"
                weight="strong"
              >
                {`top hose ${bound}${number(top)}`}
              </Mark>
            </g>
          )}
        </Svg>
      </Station>
      {open && (
        <Dialog title="Ladder" onClose={() => setOpen(false)}>
          <Box height="66vh">{children}</Box>
        </Dialog>
      )}
    </Box>
  );
}
