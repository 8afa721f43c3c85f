import { chakra } from '@chakra-ui/react';
import { useState } from 'react';
import type { Verdict } from '../../model/api/types';
import { inDays, inPercent, marks } from '../../model/words/days';
import { Svg, Words } from '../primitives';
import { Rect } from '../shapes';

const Press = chakra('button', {
  base: {
    background: 'none',
    border: 'none',
    padding: '0',
    cursor: 'pointer',
    minHeight: 'target',
    display: 'inline-flex',
    alignItems: 'center',
  },
});
const WIDTH = 5;
const GAP = 2;

/** A chance as ten marks, a mark for each day in ten; pressed, it shows the number. */
export function Chance({
  value,
  verdict,
  of,
}: {
  readonly value: number;
  readonly verdict: Verdict;
  /** What it is the chance of, for those who hear it. */
  readonly of: string;
}) {
  const [open, setOpen] = useState(false);
  const said = `${of}: below its limit ${inDays(value)}`;
  const full = marks(value);
  return (
    <Press
      type="button"
      aria-expanded={open}
      aria-label={open ? `${said}, ${inPercent(value)}` : said}
      onClick={(event) => {
        event.stopPropagation();
        setOpen(!open);
      }}
    >
      {open ? (
        <Words size="small" tone="ink">
          {inPercent(value)}
        </Words>
      ) : (
        <Svg width="68px" height="12px" viewBox="0 0 68 12" aria-hidden="true">
          {Array.from({ length: 10 }, (_, i) => i).map((i) => (
            <Rect
              key={i}
              x={i * (WIDTH + GAP)}
              y="1"
              width={WIDTH}
              height="10"
              rx="1"
              fill={i < full ? verdict : 'none'}
              stroke={i < full ? verdict : 'edge'}
              strokeWidth="1"
            />
          ))}
        </Svg>
      )}
    </Press>
  );
}
