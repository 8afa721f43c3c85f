import type { Evaluation } from '../api/types';
import { type StationName, stationOf } from '../bench/stations';
import { Box, Button, Heading, Words } from '../theme/primitives';
import { Quantity } from '../units/Quantity';
import { useSession } from './context';

/** What was guessed, sorted by how many kelvins hang on it: what to measure first. */
export function Measure({
  evaluation,
  onOpen,
}: {
  readonly evaluation: Evaluation;
  readonly onOpen: (station: StationName) => void;
}) {
  const further = useSession((s) => s.further);
  const sure = further?.variant === evaluation.variant_id ? further.sure : null;
  const swing = (path: string) =>
    sure ? Math.max(0, ...sure.unknowns.filter((u) => u.path === path).map((u) => u.swing_k)) : 0;
  const guesses = evaluation.assumed
    .filter((a) => a.guess)
    .map((a) => ({ ...a, swing: swing(a.path) }))
    .sort((a, b) => b.swing - a.swing);
  const scatter = sure?.unknowns.find((u) => u.path === null) ?? null;
  if (guesses.length === 0) return null;
  const where = sure && evaluation.cases.find((c) => c.id === sure.unknowns[0]?.case_id)?.name;
  return (
    <Box as="section" aria-label="What to measure first">
      <Heading marginTop="3">What to measure first</Heading>
      <Words size="small" tone="quiet" display="block">
        {where ? `Guessed, and how much hangs on it in ${where}` : 'Guessed, not known'}
      </Words>
      {guesses.map((a) => (
        <Button
          key={a.path}
          look="bare"
          textStyle="small"
          whiteSpace="normal"
          textAlign="left"
          width="100%"
          display="flex"
          justifyContent="space-between"
          alignItems="center"
          paddingInline="0"
          onClick={() => {
            const station = stationOf(a.path);
            if (station) onOpen(station);
          }}
        >
          <span>{a.title}</span>
          <Words size="small" tone="ink" fontWeight={620} whiteSpace="nowrap">
            {sure &&
              (a.swing < 0.5 ? (
                'little'
              ) : (
                <Quantity value={a.swing} kind="temperature_difference" />
              ))}
          </Words>
        </Button>
      ))}
      {scatter && (
        <Words size="small" tone="quiet" display="block" marginTop="1">
          Beside these: {scatter.title.charAt(0).toLowerCase() + scatter.title.slice(1)},{' '}
          <Quantity value={scatter.swing_k} kind="temperature_difference" />. A measurement of heat
          settles it.
        </Words>
      )}
    </Box>
  );
}
