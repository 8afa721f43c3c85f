import { Box, Heading, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Quantity } from '../../kit/words/Quantity';
import { Term } from '../../kit/words/Term';
import type { Sizing } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { inPercent } from '../../model/words/days';

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
      <Table stack="md" aria-label="In other air, and higher up">
        <TableHead>
          <tr>
            <Column>All cases</Column>
            <Column>
              <Term name="face">face needed</Term>
            </Column>
            {sizing.solutions.map((solution, i) => (
              <Column key={solution.variant.id}>{i + 1} holds</Column>
            ))}
          </tr>
        </TableHead>
        <TableBody>
          {sizing.moves.map((move) => (
            <TableRow key={`${move.hotter_k} ${move.higher_m}`}>
              <Cell gridColumn="1 / -1" fontWeight={move === here ? 'strong' : 'plain'}>
                {said(move)}
              </Cell>
              <Cell data-label="face needed">
                <Quantity value={move.face_m2} kind="area" none="no face" />
              </Cell>
              {move.chances.map((chance, i) => (
                <Cell key={sizing.solutions[i]?.variant.id ?? i} data-label={`${i + 1} holds`}>
                  <Words size="small" fontWeight="firm" tone={move.verdicts[i] ?? 'ink'}>
                    {inPercent(chance)}
                  </Words>
                </Cell>
              ))}
            </TableRow>
          ))}
        </TableBody>
      </Table>
    </Box>
  );
}
