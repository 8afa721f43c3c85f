import { Svg } from '../primitives';
import { Circle, Path } from '../shapes';

export type Mark = 'open' | 'ticked' | 'skipped';

/** How a step stands, by shape and not by colour alone. */
export function StepMark({ mark }: { readonly mark: Mark }) {
  return (
    <Svg width="22px" height="22px" viewBox="0 0 22 22" aria-hidden="true" flexShrink={0}>
      <Circle
        cx="11"
        cy="11"
        r="9"
        fill={mark === 'ticked' ? 'accent' : 'none'}
        stroke={mark === 'ticked' ? 'accent' : mark === 'skipped' ? 'tight' : 'field'}
        strokeWidth="1.6"
        strokeDasharray={mark === 'skipped' ? '3 2.4' : undefined}
      />
      {mark === 'ticked' && (
        <Path
          d="M6.4 11.4l3 3 6-6.4"
          fill="none"
          stroke="onAccent"
          strokeWidth="2.2"
          strokeLinecap="round"
        />
      )}
      {mark === 'skipped' && <Path d="M7 11h8" stroke="tight" strokeWidth="2" />}
    </Svg>
  );
}
