import { chakra } from '@chakra-ui/react';
import type { Verdict } from '../../model/api/types';
import { Svg, Words } from '../primitives';
import { Circle, Path } from '../shapes';

const WORDS: Record<Verdict, string> = { holds: 'holds', tight: 'tight', fails: 'fails' };
const Flat = chakra('span', {
  base: { display: 'inline-flex', alignItems: 'center', gap: '2', whiteSpace: 'nowrap' },
});

/** A verdict by word, shape and colour, never by colour alone. */
export function VerdictMark({
  verdict,
  bare = false,
}: {
  readonly verdict: Verdict;
  readonly bare?: boolean;
}) {
  return (
    <Flat>
      <Svg width="14px" height="14px" viewBox="0 0 14 14" aria-hidden="true" flexShrink={0}>
        <Circle
          cx="7"
          cy="7"
          r="5.5"
          fill={verdict === 'holds' ? verdict : 'none'}
          stroke={verdict}
          strokeWidth="2"
        />
        {verdict === 'tight' && <Path d="M7 1.5a5.5 5.5 0 0 1 0 11z" fill="tight" />}
        {verdict === 'fails' && (
          <Path d="M4.4 4.4l5.2 5.2M9.6 4.4l-5.2 5.2" stroke="fails" strokeWidth="2" />
        )}
      </Svg>
      {!bare && (
        <Words size="body" tone={verdict} fontWeight="strong">
          {WORDS[verdict]}
        </Words>
      )}
    </Flat>
  );
}
