import { Svg, Words } from '../../kit/primitives';
import { Circle, Line, Mark, Rect } from '../../kit/shapes';
import type { Variant } from '../../model/api/types';
import { fansOf } from '../../model/document/fans';
import { useSession } from '../../model/save/context';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';

const WIDTH = 500;
const FRONT = { x: 8, y: 12, width: 340, height: 176 };
const SIDE_X = 388;
const TANK_MM = 45;

/** How the core lies in the room that the car has, mm: the room is the core's own where it is not measured. */
export interface Fit {
  readonly width: number;
  readonly height: number;
  readonly depth: number;
  readonly room: { readonly width: number; readonly height: number; readonly depth: number };
  readonly tooLarge: readonly Side[];
  /** Sides of the room that nobody has measured. */
  readonly open: readonly Side[];
}

const SIDES = ['width', 'height', 'depth'] as const;
type Side = (typeof SIDES)[number];

export function fitOf(variant: Variant): Fit | null {
  const { radiator, vehicle } = variant;
  const { width_mm: width, height_mm: height, depth_mm: depth } = radiator ?? {};
  if (!width || !height || !depth) return null;
  const room = {
    width: vehicle?.space_width_mm ?? width,
    height: vehicle?.space_height_mm ?? height,
    depth: vehicle?.space_depth_mm ?? depth,
  };
  const size = { width, height, depth };
  const tooLarge = SIDES.filter((side) => size[side] > room[side]);
  const open = SIDES.filter((side) => vehicle?.[`space_${side}_mm`] == null);
  return { ...size, room, tooLarge, open };
}

/** Whether the core fits, as far as the room was measured. */
export function fits({ tooLarge, open, room }: Fit, length: (mm: number) => string): string {
  if (open.length === SIDES.length) return 'the room in the car is not measured yet';
  if (tooLarge.length > 0) return `too large for the car in ${tooLarge.join(' and ')}`;
  const measured = SIDES.filter((side) => !open.includes(side));
  if (open.length === 0)
    return `fits; room for ${measured.map((side) => length(room[side])).join(' × ')}`;
  const known = measured.map((side) => `room for ${length(room[side])} in ${side}`).join(' and ');
  return `${known}, so far it fits; the room in ${open.join(' and ')} is not measured yet`;
}

/** Core, tanks and fans to scale, from the front and from the side, in the room that the car has. */
export function CoreDrawing() {
  const variant = useSession((s) => s.build.variants[s.variant]);
  const assumed = useSession((s) => s.evaluation?.assumed);
  const units = useUnits((u) => u.units);
  const fit = variant ? fitOf(variant) : null;
  if (!variant || !fit) return null;
  const { radiator, air, vehicle } = variant;
  const fan = air?.fan;
  const known = (path: string, value: number | null | undefined, otherwise: number) =>
    value ??
    (assumed?.find((a) => a.path.endsWith(path))?.value as number | undefined) ??
    otherwise;
  const across = radiator?.flow === 'crossflow';
  const tanks = { width: across ? 2 * TANK_MM : 0, height: across ? 0 : 2 * TANK_MM };
  const most = {
    width: Math.max(fit.width + tanks.width, fit.room.width),
    height: Math.max(fit.height + tanks.height, fit.room.height),
  };
  const scale = Math.min(FRONT.width / most.width, FRONT.height / most.height);
  const middle = {
    x: FRONT.x + FRONT.width / 2,
    y: FRONT.y + (most.height * scale) / 2,
  };
  const box = (width: number, height: number) => ({
    x: middle.x - (width * scale) / 2,
    y: middle.y - (height * scale) / 2,
    width: width * scale,
    height: height * scale,
  });
  const height = FRONT.y + most.height * scale + 30;
  const core = box(fit.width, fit.height);
  const room = box(fit.room.width, fit.room.height);
  const tank = TANK_MM * scale;
  const fans = fansOf(variant);
  const disc = (known('/fan/diameter_mm', fan?.diameter_mm, 380) / 2) * scale;
  const rows = known('/radiator/rows', radiator?.rows, 1);
  const length = (value: number) => formatQuantity(value, 'length', units);
  const said = `${length(fit.width)} wide, ${length(fit.height)} high, ${length(fit.depth)} deep`;
  const fitting = fits(fit, length);
  const deep = Math.max(fit.depth, fit.room.depth);
  const thick = Math.min(1.2 * scale, 100 / deep);
  const lines = Array.from({ length: 9 }, (_, i) => (i + 1) / 10);
  return (
    <figure>
      <Svg
        role="img"
        aria-label={`Core to scale: ${said}; ${fitting}.`}
        viewBox={`0 0 ${WIDTH} ${height}`}
        width="100%"
        maxWidth="620px"
      >
        {across ? (
          <>
            <Rect
              x={core.x - tank}
              y={core.y}
              width={tank}
              height={core.height}
              rx={4}
              fill="none"
              stroke="edge"
              strokeWidth="1.2"
            />
            <Rect
              x={core.x + core.width}
              y={core.y}
              width={tank}
              height={core.height}
              rx={4}
              fill="none"
              stroke="edge"
              strokeWidth="1.2"
            />
          </>
        ) : (
          <>
            <Rect
              x={core.x}
              y={core.y - tank}
              width={core.width}
              height={tank}
              rx={4}
              fill="none"
              stroke="edge"
              strokeWidth="1.2"
            />
            <Rect
              x={core.x}
              y={core.y + core.height}
              width={core.width}
              height={tank}
              rx={4}
              fill="none"
              stroke="edge"
              strokeWidth="1.2"
            />
          </>
        )}
        <Rect {...core} fill="raised" stroke="ink" strokeWidth="2" />
        {lines.map((share) =>
          across ? (
            <Line
              key={share}
              x1={core.x}
              x2={core.x + core.width}
              y1={core.y + share * core.height}
              y2={core.y + share * core.height}
              stroke="rule"
              strokeWidth="1"
            />
          ) : (
            <Line
              key={share}
              x1={core.x + share * core.width}
              x2={core.x + share * core.width}
              y1={core.y}
              y2={core.y + core.height}
              stroke="rule"
              strokeWidth="1"
            />
          ),
        )}
        {air?.shroud === 'full' && fans > 0 && (
          <Rect
            x={core.x + 4}
            y={core.y + 4}
            width={core.width - 8}
            height={core.height - 8}
            rx={10}
            fill="none"
            stroke="accent"
            strokeWidth="1.5"
          />
        )}
        {Array.from({ length: fans }, (_, i) => (
          <Circle
            // biome-ignore lint/suspicious/noArrayIndexKey: two fans alike, told apart by their place
            key={i}
            cx={middle.x + (fans === 1 ? 0 : (i - 0.5) * 0.5 * core.width)}
            cy={middle.y}
            r={disc}
            fill="none"
            stroke="accent"
            strokeWidth={air?.shroud === 'none' ? '1.5' : '3'}
            strokeDasharray={fan?.mount === 'pusher' ? '5 4' : undefined}
          />
        ))}
        {(vehicle?.space_width_mm != null || vehicle?.space_height_mm != null) && (
          <Rect
            {...room}
            fill="none"
            stroke={fit.tooLarge.some((key) => key !== 'depth') ? 'fails' : 'ink'}
            strokeWidth="1.5"
            strokeDasharray="6 4"
          />
        )}
        <Mark x={middle.x} y={height - 6} textAnchor="middle">
          {`${length(fit.width)} × ${length(fit.height)}, from the front`}
        </Mark>
        <Rect
          x={SIDE_X}
          y={core.y}
          width={fit.depth * thick}
          height={core.height}
          fill="raised"
          stroke="ink"
          strokeWidth="2"
        />
        {Array.from({ length: rows - 1 }, (_, i) => (
          <Line
            // biome-ignore lint/suspicious/noArrayIndexKey: rows are told apart by their place
            key={i}
            x1={SIDE_X + ((i + 1) / rows) * fit.depth * thick}
            x2={SIDE_X + ((i + 1) / rows) * fit.depth * thick}
            y1={core.y}
            y2={core.y + core.height}
            stroke="edge"
            strokeWidth="1"
          />
        ))}
        {vehicle?.space_depth_mm != null && (
          <Rect
            x={SIDE_X}
            y={core.y - 8}
            width={fit.room.depth * thick}
            height={core.height + 16}
            fill="none"
            stroke={fit.tooLarge.includes('depth') ? 'fails' : 'ink'}
            strokeWidth="1.5"
            strokeDasharray="6 4"
          />
        )}
        <Mark
          x={SIDE_X}
          y={height - 6}
        >{`${length(fit.depth)}, ${counted(rows, 'row', 'rows')}`}</Mark>
      </Svg>
      <Words
        as="figcaption"
        size="small"
        tone={fit.tooLarge.length > 0 ? 'fails' : 'quiet'}
        display="block"
      >
        To scale, the side wider: {said}; {fitting}.
      </Words>
    </figure>
  );
}
