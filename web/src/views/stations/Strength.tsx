import { memo } from 'react';
import { atEnd, Chart, Curve, Labels } from '../../kit/chart/Chart';
import { Figure } from '../../kit/chart/Figure';
import { Circle, Line } from '../../kit/shapes';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Quantity } from '../../kit/words/Quantity';
import { VerdictMark } from '../../kit/words/VerdictMark';
import type { Coolants, Evaluation } from '../../model/api/types';
import { formatQuantity } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { useCurves } from './useCurves';

const NAMES: Record<Coolants['outcomes'][number]['kind'], string> = {
  water: 'Water',
  ethylene_glycol: 'Ethylene glycol',
  propylene_glycol: 'Propylene glycol',
  waterless: 'Waterless glycol',
};

/** Coolants side by side in this build, and freezing and boiling against strength. */
export function Strength({ evaluation }: { readonly evaluation: Evaluation }) {
  const found = useCurves('coolants');
  return (
    <Figure found={found} height={430}>
      {(coolants) => (
        <>
          <Drawn
            coolants={coolants}
            coldest={Math.min(...evaluation.cases.map((c) => c.ambient_c))}
          />
          <Compared coolants={coolants} />
        </>
      )}
    </Figure>
  );
}

const Drawn = memo(function Drawn({
  coolants,
  coldest,
}: {
  readonly coolants: Coolants;
  readonly coldest: number;
}) {
  const units = useUnits((u) => u.units);
  const { strengths } = coolants;
  const fitted = coolants.outcomes.find((o) => o.fitted);
  const share = fitted?.kind === coolants.strength_of ? fitted.share : null;
  const all = strengths.flatMap((p) => [p.freezes_c, p.boils_c]);
  const residue = coolants.strength_of === 'waterless';
  const last = strengths.at(-1);
  const boils = strengths.map((p) => ({ x: p.share, y: p.boils_c }));
  const bare = strengths.map((p) => ({ x: p.share, y: p.boils_without_cap_c }));
  const freezes = strengths.map((p) => ({ x: p.share, y: p.freezes_c }));
  const label = `Freezing and boiling of ${NAMES[coolants.strength_of].toLowerCase()} against ${residue ? 'the water left in it' : 'its share'}${fitted && share !== null ? `: now ${formatQuantity(share, 'share', units)}, freezes at ${formatQuantity(fitted.freezes_c, 'temperature', units)}, boils at ${formatQuantity(fitted.boils_c, 'temperature', units)} under the cap` : ''}.`;
  return (
    <figure>
      <Chart
        label={label}
        height={206}
        room={142}
        x={{
          kind: 'share',
          from: 0,
          to: last?.share ?? 1,
          of: residue ? 'water left' : 'glycol',
        }}
        y={{ kind: 'temperature', from: Math.min(...all, -20) - 5, to: Math.max(...all) + 8 }}
      >
        {(place) => (
          <>
            <Curve main place={place} points={boils} />
            <Curve place={place} dashed points={bare} />
            <Curve place={place} points={freezes} />
            <Line
              x1={place.left}
              x2={place.right}
              y1={place.y(coldest)}
              y2={place.y(coldest)}
              stroke="air"
              strokeWidth="1.5"
            />
            {fitted && share !== null && (
              <>
                <Line
                  x1={place.x(share)}
                  x2={place.x(share)}
                  y1={place.y(fitted.freezes_c)}
                  y2={place.y(fitted.boils_c)}
                  stroke="accent"
                  strokeWidth="1.5"
                />
                <Circle cx={place.x(share)} cy={place.y(fitted.freezes_c)} r="5" fill="accent" />
                <Circle cx={place.x(share)} cy={place.y(fitted.boils_c)} r="5" fill="accent" />
              </>
            )}
            <Labels
              place={place}
              labels={[
                ...atEnd(place, boils, 'boils under the cap', true),
                ...atEnd(place, freezes, 'freezes'),
                ...atEnd(place, bare, 'boils, cap failed'),
                {
                  text: `coldest case ${formatQuantity(coldest, 'temperature', units)}`,
                  x: place.right + 8,
                  y: place.y(coldest) + 4,
                },
                ...(share === null
                  ? []
                  : [
                      {
                        text: formatQuantity(share, 'share', units),
                        x: place.x(share) + 8,
                        y: place.y(40),
                        strong: true,
                      },
                    ]),
              ]}
            />
          </>
        )}
      </Chart>
    </figure>
  );
});

function Compared({ coolants }: { readonly coolants: Coolants }) {
  return (
    <Table stack="md" aria-label="Coolants in this build">
      <TableHead>
        <tr>
          <Column>In this build</Column>
          <Column>top hose</Column>
          <Column>to boiling</Column>
          <Column>freezes</Column>
          <Column>flow</Column>
          <Column textAlign="left">case</Column>
          <Column textAlign="left">build</Column>
        </tr>
      </TableHead>
      <TableBody>
        {coolants.outcomes.map((o) => (
          <TableRow key={`${o.kind} ${o.share}`}>
            <Cell gridColumn="1 / -1" fontWeight={o.fitted ? 'strong' : 'plain'}>
              {NAMES[o.kind]}{' '}
              {o.share !== null && o.kind !== 'waterless' && (
                <Quantity value={o.share} kind="share" />
              )}
              {o.fitted && ', fitted'}
            </Cell>
            <Cell data-label="top hose">
              <Quantity value={o.top_hose_c} kind="temperature" none="no end" />
            </Cell>
            <Cell data-label="to boiling">
              <Quantity value={o.boiling_margin_k} kind="temperature_difference" none="–" />
            </Cell>
            <Cell data-label="freezes">
              <Quantity value={o.freezes_c} kind="temperature" />
            </Cell>
            <Cell data-label="flow">
              <Quantity value={o.coolant_flow_l_per_min} kind="coolant_flow" />
            </Cell>
            <Cell data-label="case" textAlign="left">
              <VerdictMark verdict={o.verdict} />
            </Cell>
            <Cell data-label="build" textAlign="left">
              <VerdictMark verdict={o.build_verdict} />
            </Cell>
          </TableRow>
        ))}
      </TableBody>
    </Table>
  );
}
