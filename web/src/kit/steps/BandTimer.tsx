import { Box, Row, Svg, Words } from '../primitives';
import { Line, Mark, Rect } from '../shapes';
import { between, clock, lasting, useSince } from './clock';

export interface Band {
  /** In seconds; the end is infinite where nobody can say it. */
  readonly low: number;
  readonly high: number;
  /** Whether one waits until it is over: to wait longer does no harm. Else something is to come about within it. */
  readonly waits?: boolean;
}

function words({ low, high, waits }: Band): string {
  const before = waits ? 'wait' : 'expected';
  if (Number.isFinite(high)) return `${before} ${between(low, high)}`;
  return `${before} ${lasting(low)} or ${waits ? 'longer' : 'later'}`;
}

const WIDTH = 358;
/** A running time against the band in which something is expected. */
export function BandTimer({
  startedAt,
  took,
  came = null,
  band,
  expects,
}: {
  readonly startedAt: string | null;
  /** How long it took, once it has stopped. */
  readonly took: number | null;
  /** When what is expected came about, while it runs. */
  readonly came?: number | null;
  readonly band: Band | null;
  /** What the band is of, such as "it opens". */
  readonly expects: string;
}) {
  const since = useSince(startedAt);
  const shown = since ?? took ?? 0;
  const last = band && (Number.isFinite(band.high) ? band.high : band.low);
  const end = Math.max((last ?? 900) * 1.3, shown * 1.08, 60);
  const x = (seconds: number) => (Math.min(seconds, end) / end) * WIDTH;
  const over = band !== null && last !== null && (came ?? shown) > last;
  const late = over && !band.waits && since !== null && Number.isFinite(band.high);
  const enough = over && band.waits;
  const expected = band ? words(band) : '';
  return (
    <Box>
      <Row alignItems="baseline" gap="3">
        <Box
          as="span"
          role="timer"
          fontSize="58px"
          fontWeight="strong"
          lineHeight="1"
          letterSpacing="-0.01em"
          color={late ? 'fails' : 'ink'}
        >
          {clock(shown)}
        </Box>
        <Words tone="quiet">
          {since !== null ? 'running' : took !== null ? 'it took' : 'not started'}
        </Words>
      </Row>
      {band && (
        <Svg
          viewBox={`0 0 ${WIDTH} 66`}
          width="100%"
          maxWidth="460px"
          display="block"
          marginTop="2"
          role="img"
          aria-label={`${expects}: ${expected}`}
        >
          <Rect x="0" y="20" width={WIDTH} height="16" fill="sunken" />
          <Rect
            x={x(band.low)}
            y="20"
            width={Math.max(x(band.high) - x(band.low), 2)}
            height="16"
            fill="accentSoft"
          />
          {[band.low, band.high].filter(Number.isFinite).map((at) => (
            <Line key={at} x1={x(at)} x2={x(at)} y1="14" y2="42" stroke="accent" strokeWidth="2" />
          ))}
          {(since !== null || took !== null) && (
            <>
              <Line
                x1={Math.max(x(shown), 2)}
                x2={Math.max(x(shown), 2)}
                y1="12"
                y2="44"
                stroke="ink"
                strokeWidth="4"
              />
              <Mark
                x={Math.min(Math.max(x(shown), 16), WIDTH - 16)}
                y="9"
                textAnchor="middle"
                weight="strong"
                fontSize="13px"
              >
                {since !== null ? 'now' : 'then'}
              </Mark>
            </>
          )}
          <Mark
            x={Math.min(Math.max((x(band.low) + x(band.high)) / 2, 84), WIDTH - 84)}
            y="60"
            textAnchor="middle"
            weight="strong"
            fontSize="13px"
            fill="accent"
          >
            {expected}
          </Mark>
        </Svg>
      )}
      {late && (
        <Words role="status" size="small" tone="fails" fontWeight="strong" display="block">
          Later than expected.
        </Words>
      )}
      {enough && (
        <Words role="status" size="small" tone="holds" fontWeight="strong" display="block">
          Long enough.
        </Words>
      )}
    </Box>
  );
}
