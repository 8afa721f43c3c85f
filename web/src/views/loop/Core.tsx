import { Svg } from '../../kit/primitives';
import { Circle, Path, Rect } from '../../kit/shapes';
import { tone } from '../../kit/theme/temperature';
import type { CaseResult, Variant } from '../../model/api/types';
import { fansOf } from '../../model/document/fans';

/** The core to its own proportions, with its tubes and what the fan sweeps. */
export function Core({ c, variant }: { readonly c: CaseResult; readonly variant: Variant }) {
  const width = variant.radiator?.width_mm ?? 500;
  const height = variant.radiator?.height_mm ?? 400;
  const scale = Math.min(140 / width, 112 / height);
  const w = width * scale;
  const h = height * scale;
  const across = variant.radiator?.flow !== 'downflow';
  const lines = Array.from({ length: Math.floor((across ? h : w) / 7) }, (_, i) => 3.5 + i * 7);
  const radius = ((variant.air?.fan?.diameter_mm ?? 380) / 2) * scale;
  const discs = { 0: [], 1: [0], 2: [-radius, radius] }[fansOf(variant)];
  const fan = discs.length > 0;
  const mean =
    c.top_hose_c === null || c.bottom_hose_c === null ? null : (c.top_hose_c + c.bottom_hose_c) / 2;
  return (
    <Svg
      width="100%"
      height="116px"
      viewBox={`${-70} ${-58} 140 116`}
      marginTop="2"
      aria-hidden="true"
    >
      <rect x={-w / 2} y={-h / 2} width={w} height={h} fill={tone(mean)} />
      {lines.map((at) => (
        <Path
          key={at}
          d={across ? `M${-w / 2} ${-h / 2 + at}h${w}` : `M${-w / 2 + at} ${-h / 2}v${h}`}
          stroke="raised"
          strokeWidth="0.8"
          opacity="0.55"
        />
      ))}
      {fan && variant.air?.shroud === 'full' && (
        <Rect
          x={-w / 2 + 3}
          y={-h / 2 + 3}
          width={w - 6}
          height={h - 6}
          fill="none"
          stroke="raised"
          strokeWidth="2"
        />
      )}
      {fan && variant.air?.shroud === 'ring' && (
        <Circle cx="0" cy="0" r={radius + 3} fill="none" stroke="raised" strokeWidth="2" />
      )}
      {discs.map((x) => (
        <Circle
          key={x}
          cx={x}
          cy="0"
          r={radius}
          fill="none"
          stroke="raised"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
      ))}
    </Svg>
  );
}
