import { Box, Button, Heading, Row, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import type { Evaluation } from '../../model/api/types';
import { type StationName, stationOf } from '../../model/document/stations';
import { inUnits } from '../../model/units/help';
import { useUnits } from '../../model/units/store';

/** What would settle most of the doubt in the worst case, at most six lines: what to measure first. */
export function Measure({
  evaluation,
  onOpen,
}: {
  readonly evaluation: Evaluation;
  readonly onOpen: (station: StationName) => void;
}) {
  const first = evaluation.measure_first;
  const units = useUnits((u) => u.units);
  return (
    <Box as="section" aria-label="What to measure first">
      <Heading marginTop="3">What to measure first</Heading>
      <Words size="small" tone={first.changes ? 'ink' : 'quiet'} display="block">
        <Sentence text={first.sentence} />
      </Words>
      {first.changes &&
        first.unknowns.map((unknown) => {
          const station = unknown.path ? stationOf(unknown.path) : 'engine';
          return station && unknown.path ? (
            <Button
              key={`${unknown.path} ${unknown.swing_k}`}
              look="bare"
              textStyle="small"
              whiteSpace="normal"
              textAlign="left"
              width="100%"
              display="flex"
              justifyContent="space-between"
              alignItems="center"
              paddingInline="0"
              onClick={() => onOpen(station)}
            >
              <span>{inUnits(unknown.title, units)}</span>
              <Worth share={unknown.settles} />
            </Button>
          ) : (
            <Row key={unknown.name} justifyContent="space-between" minHeight="target">
              <Words size="small">{inUnits(unknown.title, units)}</Words>
              <Worth share={unknown.settles} />
            </Row>
          );
        })}
    </Box>
  );
}

function Worth({ share }: { readonly share: number }) {
  return (
    <Words size="small" tone="ink" fontWeight="strong" whiteSpace="nowrap">
      <Quantity value={share} kind="share" />
    </Words>
  );
}
