import { Circle, Line, Mark, Path, Rect } from '../../kit/shapes';

export const P = ({ d }: { readonly d: string }) => (
  <Path d={d} fill="none" stroke="ink" strokeWidth="1.8" strokeLinecap="round" />
);
export const R = (p: {
  x: number;
  y: number;
  w: number;
  h: number;
  r?: number;
  full?: boolean;
}) => (
  <Rect
    x={p.x}
    y={p.y}
    width={p.w}
    height={p.h}
    rx={p.r ?? 3}
    fill={p.full ? 'sunken' : 'raised'}
    stroke="ink"
    strokeWidth="1.8"
  />
);
export const C = (p: { x: number; y: number; r: number; full?: boolean }) => (
  <Circle
    cx={p.x}
    cy={p.y}
    r={p.r}
    fill={p.full ? 'sunken' : 'none'}
    stroke="ink"
    strokeWidth="1.8"
  />
);
export const T = ({
  x,
  y,
  children,
}: {
  readonly x: number;
  readonly y: number;
  readonly children: string;
}) => (
  <Mark x={x} y={y} fontSize="12px">
    {children}
  </Mark>
);
export const fins = (x: number, y: number, w: number, h: number, step = 9) =>
  Array.from({ length: Math.floor(w / step) - 1 }, (_, n) => x + (n + 1) * step).map((at) => (
    <Line key={at} x1={at} x2={at} y1={y + 4} y2={y + h - 4} stroke="rule" strokeWidth="2" />
  ));
export const core = (x: number, y: number, w: number, h: number) => (
  <>
    <R x={x} y={y} w={w} h={h} />
    {fins(x, y, w, h)}
  </>
);
export const blades = (x: number, y: number, r: number) => (
  <>
    <C x={x} y={y} r={r} />
    {[0, 72, 144, 216, 288].map((turn) => (
      <g key={turn} transform={`translate(${x} ${y}) rotate(${turn})`}>
        <Path
          d={`M0 0 C ${r * 0.2} ${-r * 0.5} ${r * 0.6} ${-r * 0.7} ${r * 0.35} ${-r * 0.9} C 0 ${-r * 0.9} ${-r * 0.1} ${-r * 0.4} 0 0`}
          fill="sunken"
          stroke="ink"
          strokeWidth="1.4"
        />
      </g>
    ))}
    <C x={x} y={y} r={4} full />
  </>
);
export const gun = (x: number, y: number) => (
  <>
    <P d={`M${x} ${y} h34 v16 h-20 l-6 22 h-14 l6 -22 z`} />
    <Path
      d={`M${x} ${y + 8} L${x - 58} ${y + 8}`}
      stroke="fails"
      strokeWidth="1.6"
      strokeDasharray="4 4"
    />
  </>
);
export const meter = (x: number, y: number, shows: string) => (
  <>
    <R x={x} y={y} w={62} h={70} r={5} />
    <R x={x + 9} y={y + 8} w={44} h={20} r={2} />
    <T x={x + 15} y={y + 23}>
      {shows}
    </T>
    <C x={x + 31} y={y + 48} r={11} />
  </>
);
export const thermometer = (x: number, y: number) => (
  <>
    <R x={x} y={y} w={8} h={52} r={4} />
    <Circle cx={x + 4} cy={y + 54} r={7} fill="fails" stroke="ink" strokeWidth="1.8" />
    <Line x1={x + 4} x2={x + 4} y1={y + 20} y2={y + 52} stroke="fails" strokeWidth="3" />
  </>
);
export const water = (d: string) => <Path d={d} fill="accentSoft" stroke="ink" strokeWidth="1.4" />;
