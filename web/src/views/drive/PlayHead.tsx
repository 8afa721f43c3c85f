import { type PointerEvent, type ReactNode, useEffect, useRef, useState } from 'react';
import { acrossShares } from '../../kit/chart/Chart';
import { Box, Button, Row, Slider, Words } from '../../kit/primitives';
import { clock } from '../../model/document/drives';
import { ROOM } from './CourseChart';

const WHOLE = 24; // s in which a drive is played from end to end
const [LEFT, RIGHT] = acrossShares(ROOM);

/** Charts with the play head across them: dragged on them, by its slider, or playing by itself. */
export function PlayHead({
  at,
  end,
  onMove,
  children,
}: {
  /** Where it stands, s. */
  readonly at: number;
  /** Of the drive, s. */
  readonly end: number;
  readonly onMove: (at: number) => void;
  readonly children: ReactNode;
}) {
  const [plays, setPlays] = useState(false);
  const now = useRef(at);
  now.current = at;
  useEffect(() => {
    if (!plays) return;
    if (window.matchMedia('(prefers-reduced-motion: reduce)').matches) {
      // A step a second, standing still between them.
      const steps = setInterval(() => {
        const moved = Math.min(now.current + end / WHOLE, end);
        onMove(moved);
        if (moved >= end) setPlays(false);
      }, 1000);
      return () => clearInterval(steps);
    }
    let before = performance.now();
    let next = 0;
    const step = (time: number) => {
      const moved = now.current + ((time - before) / 1000) * (end / WHOLE);
      before = time;
      onMove(Math.min(moved, end));
      if (moved >= end) setPlays(false);
      else next = requestAnimationFrame(step);
    };
    next = requestAnimationFrame(step);
    return () => cancelAnimationFrame(next);
  }, [plays, end, onMove]);

  function follow(event: PointerEvent<HTMLDivElement>) {
    const { left, width } = event.currentTarget.getBoundingClientRect();
    const share = ((event.clientX - left) / width - LEFT) / (RIGHT - LEFT);
    setPlays(false);
    onMove(Math.round(Math.min(Math.max(share, 0), 1) * end));
  }

  return (
    <>
      <Box
        position="relative"
        maxWidth="620px"
        cursor="ew-resize"
        touchAction="pan-y"
        onPointerDown={(event) => {
          event.currentTarget.setPointerCapture(event.pointerId);
          follow(event);
        }}
        onPointerMove={(event) =>
          event.currentTarget.hasPointerCapture(event.pointerId) && follow(event)
        }
      >
        {children}
        <Box
          position="absolute"
          top="22px"
          bottom="24px"
          width="2px"
          marginLeft="-1px"
          background="accent"
          pointerEvents="none"
          willChange="left"
          style={{ left: `${100 * (LEFT + (RIGHT - LEFT) * (end > 0 ? at / end : 0))}%` }}
        />
      </Box>
      <Row gap="3" maxWidth="620px">
        <Button
          aria-pressed={plays}
          minWidth="84px"
          onClick={() => {
            if (!plays && at >= end) onMove(0);
            setPlays(!plays);
          }}
        >
          {plays ? 'Pause' : 'Play'}
        </Button>
        <Slider
          type="range"
          aria-label="Play head"
          aria-valuetext={clock(at)}
          min={0}
          max={end}
          step={1}
          value={at}
          onChange={(event) => {
            setPlays(false);
            onMove(Number(event.target.value));
          }}
        />
        <Words size="strong" minWidth="56px">
          {clock(at)}
        </Words>
      </Row>
    </>
  );
}
