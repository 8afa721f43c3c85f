import { Way } from '../kit/page/Way';

/** It boils right now: one press away from everywhere. */
export function Boils() {
  return (
    <Way to="/road" color="fails" paddingInline="2" whiteSpace="nowrap" data-print="no">
      It boils!
    </Way>
  );
}
