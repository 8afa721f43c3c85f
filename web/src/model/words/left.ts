/** Whether so many kelvins or kilopascals are left to boiling: what would be shown as none are none. */
export function left(margin: number | null): margin is number {
  return margin !== null && margin >= 0.5;
}
