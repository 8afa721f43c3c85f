import { Box, FigureCell, FigureHead, FigureTable, Heading, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Term } from '../../kit/words/Term';
import type { Sizing } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';

/** How the answer moves with the air and the altitude of all cases. */
export function Moves({ sizing }: { readonly sizing: Sizing }) {
  const units = useUnits((u) => u.units);
  const here = sizing.moves.find((move) => move.hotter_k === 0 && move.higher_m === 0);
  const said = (move: Sizing['moves'][number]) => {
    if (move === here) return 'as asked';
    if (move.higher_m !== 0) return `${formatQuantity(move.higher_m, 'altitude', units)} higher`;
    const by = formatQuantity(Math.abs(move.hotter_k), 'temperature_difference', units);
    return `${by} ${move.hotter_k > 0 ? 'hotter' : 'cooler'}`;
  };
  return (
    <Box as="section" aria-label="Elsewhere" marginTop="4">
      <Heading>In other air, and higher up</Heading>
      <FigureTable>
        <thead>
          <tr>
            <FigureHead>All cases</FigureHead>
            <FigureHead>
              <Term name="face">face needed</Term>
            </FigureHead>
            {sizing.solutions.map((solution, i) => (
              <FigureHead key={solution.variant.id}>{i + 1} holds</FigureHead>
            ))}
          </tr>
        </thead>
        <tbody>
          {sizing.moves.map((move) => (
            <tr key={`${move.hotter_k} ${move.higher_m}`}>
              <FigureCell fontWeight={move === here ? 'strong' : 'plain'}>{said(move)}</FigureCell>
              <FigureCell>
                <Quantity value={move.face_m2} kind="area" none="no face" />
              </FigureCell>
              {move.chances.map((chance, i) => (
                <FigureCell key={sizing.solutions[i]?.variant.id ?? i}>
                  <Words size="small" fontWeight="firm" tone={move.verdicts[i] ?? 'ink'}>
                    <Quantity value={chance} kind="share" />
                  </Words>
                </FigureCell>
              ))}
            </tr>
          ))}
        </tbody>
      </FigureTable>
    </Box>
  );
}
