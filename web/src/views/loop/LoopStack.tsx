import { memo, type ReactNode } from 'react';
import { Box, Station, Words } from '../../kit/primitives';
import { tone } from '../../kit/theme/temperature';
import { Quantity } from '../../kit/words/Quantity';
import type { CaseResult, Evaluation, Variant } from '../../model/api/types';
import type { StationName } from '../../model/document/stations';
import { noneFound } from '../../model/words/air';
import { inTheEnd } from '../../model/words/hottest';
import { left } from '../../model/words/left';
import { shedding } from '../../model/words/shedding';
import { CapPressure, Fill } from './figures';
import { hoseWidth } from './Loop';

/** The loop for a narrow screen: the stations one below the other, as coolant meets them, the hose beside them. */
export const LoopStack = memo(function LoopStack({
  evaluation,
  variant,
  shownCase: c,
  onOpen,
}: {
  readonly evaluation: Evaluation;
  readonly variant: Variant;
  readonly shownCase: CaseResult;
  readonly onOpen: (station: StationName) => void;
}) {
  const flow = c.coolant_flow_l_per_min;
  const restless = c.hunt !== null;
  const top = inTheEnd(c);
  const stop = (
    name: StationName,
    title: string,
    temperature: number | null,
    big: ReactNode,
    small: ReactNode,
  ) => (
    <Stop
      title={title}
      flow={flow}
      temperature={temperature}
      onOpen={() => onOpen(name)}
      big={big}
      small={small}
    />
  );
  const pumped = variant.circuit?.pump_drive !== 'none';
  const heat = shedding(c.shed_kw);
  return (
    <Box as="section" aria-label={`Coolant loop in ${c.name}`} paddingInline="3" paddingBlock="3">
      <Words size="small" tone="quiet" display="block" marginBottom="2">
        The loop in {c.name}
      </Words>
      <ul>
        {stop(
          'engine',
          'Engine',
          top,
          <Quantity value={c.heat_kw} kind="power" />,
          <>
            to the coolant, +
            <Quantity value={c.engine_rise_k ?? c.full_flow_rise_k} kind="temperature_difference" />{' '}
            in the block
          </>,
        )}
        {stop(
          'thermostat',
          'Thermostat',
          top,
          <Quantity value={c.thermostat_lift} kind="share" />,
          <>
            open; starts at{' '}
            <Quantity value={evaluation.ladder.thermostat_opens_c} kind="temperature" />
          </>,
        )}
        {stop(
          'cap',
          'Top hose and cap',
          top,
          <Quantity value={top} kind="temperature" none="never settles" />,
          <>
            {restless && 'at its hottest; '}
            {c.timed && top !== null && 'if it went on; '}cap <CapPressure />,{' '}
            {left(c.boiling_margin_k) ? (
              <>
                <Quantity value={c.boiling_margin_k} kind="temperature_difference" /> to boiling
              </>
            ) : (
              'it boils'
            )}
          </>,
        )}
        {stop(
          'radiator',
          'Radiator',
          top,
          <Quantity value={heat.kw} kind="power" />,
          <>
            {heat.said}, <Quantity value={c.conductance_kw_per_k} kind="conductance" />
          </>,
        )}
        {stop(
          'air',
          'Air',
          null,
          <Quantity value={c.air_available_m3_per_s} kind="airflow" />,
          c.air_needed_m3_per_s === null ? (
            noneFound(c.verdict)
          ) : (
            <>
              needs <Quantity value={c.air_needed_m3_per_s} kind="airflow" />
            </>
          ),
        )}
        {stop(
          'flow',
          pumped ? 'Bottom hose and pump' : 'Bottom hose',
          c.bottom_hose_c,
          <Quantity
            value={c.bottom_hose_c}
            kind="temperature"
            none={restless ? 'comes to no rest' : 'never settles'}
          />,
          <>
            {pumped ? 'pump lifts' : 'no pump; it lifts itself by'}{' '}
            <Quantity value={c.pump_rise_kpa} kind="pressure" />
          </>,
        )}
        {stop(
          'coolant',
          'Coolant',
          c.bottom_hose_c,
          <Quantity value={flow} kind="coolant_flow" />,
          <Fill of={variant} />,
        )}
      </ul>
    </Box>
  );
});

function Stop({
  title,
  flow,
  temperature,
  onOpen,
  big,
  small,
}: {
  readonly title: string;
  readonly flow: number;
  readonly temperature: number | null;
  readonly onOpen: () => void;
  readonly big: ReactNode;
  readonly small: ReactNode;
}) {
  return (
    <Box as="li" display="grid" gridTemplateColumns="28px minmax(0,1fr)">
      <Box aria-hidden="true" display="flex" justifyContent="center">
        {temperature !== null && (
          <Box height="100%" style={{ width: hoseWidth(flow), background: tone(temperature) }} />
        )}
      </Box>
      <Station
        marginBottom="2"
        paddingBlock="2"
        display="grid"
        gridTemplateColumns="minmax(0,1fr) auto"
        alignItems="baseline"
        columnGap="3"
        aria-label={`${title}, open its editor`}
        onClick={onOpen}
      >
        <Words size="strong">{title}</Words>
        <Words size="large" whiteSpace="nowrap">
          {big}
        </Words>
        <Words size="small" tone="quiet" gridColumn="1 / -1">
          {small}
        </Words>
      </Station>
    </Box>
  );
}
