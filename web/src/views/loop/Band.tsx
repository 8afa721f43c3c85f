import type { ReactNode } from 'react';
import { memo } from 'react';
import { Box, Station, Words } from '../../kit/primitives';
import { tone } from '../../kit/theme/temperature';
import { Quantity } from '../../kit/words/Quantity';
import type { CaseResult, Evaluation, Variant } from '../../model/api/types';
import { type StationName, stationNames } from '../../model/document/stations';
import { boundOf, hottest, inTheEnd } from '../../model/words/hottest';
import { left } from '../../model/words/left';
import { CapPressure } from './figures';

const NAMES: Record<StationName, string> = {
  engine: 'Engine',
  coolant: 'Coolant',
  radiator: 'Radiator',
  air: 'Air',
  flow: 'Pump',
  thermostat: 'Thermostat',
  cap: 'Cap',
};
const ORDER: readonly StationName[] = [
  'engine',
  'thermostat',
  'radiator',
  'air',
  'flow',
  'coolant',
  'cap',
];

/** The loop drawn together into a band that keeps its numbers, while a station is being edited. */
export const Band = memo(function Band({
  evaluation,
  variant,
  shownCase,
  open,
  onOpen,
}: {
  readonly evaluation: Evaluation | null;
  readonly variant: Variant;
  readonly shownCase: CaseResult | null;
  readonly open: StationName | null;
  readonly onOpen: (station: StationName) => void;
}) {
  return (
    <Box
      as="nav"
      aria-label="Stations"
      display="grid"
      gridTemplateColumns={{
        base: 'repeat(3, minmax(0,1fr))',
        md: 'repeat(4, minmax(0,1fr))',
        lg: `repeat(${stationNames.length}, minmax(0,1fr))`,
      }}
      gap="2"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="3"
      borderBottom="1px solid"
      borderColor="rule"
    >
      {ORDER.map((name) => (
        <Station
          key={name}
          padding="2"
          aria-pressed={open === name}
          onClick={() => onOpen(name)}
          minHeight="62px"
        >
          <Words size="small" fontWeight="strong" display="block">
            {name === 'flow' && variant.circuit?.pump_drive === 'none' ? 'No pump' : NAMES[name]}
          </Words>
          <Words
            size="small"
            display="block"
            whiteSpace="nowrap"
            overflow="hidden"
            textOverflow="ellipsis"
          >
            {evaluation && shownCase ? numbers(name, evaluation, shownCase) : '–'}
          </Words>
          <Box
            height="4px"
            borderRadius="round"
            marginTop="1"
            style={{ background: shownCase ? hue(name, shownCase) : undefined }}
          />
        </Station>
      ))}
    </Box>
  );
});

function hue(name: StationName, c: CaseResult): string | undefined {
  if (name === 'radiator') return tone(hottest(c));
  if (name === 'engine' || name === 'thermostat') return tone(inTheEnd(c));
  if (name === 'flow' || name === 'coolant') return tone(c.bottom_hose_c);
  return undefined;
}

function numbers(name: StationName, evaluation: Evaluation, c: CaseResult): ReactNode {
  const needed = c.air_needed_m3_per_s;
  switch (name) {
    case 'engine':
      return <Quantity value={c.heat_kw} kind="power" />;
    case 'coolant':
      return <Quantity value={c.coolant_flow_l_per_min} kind="coolant_flow" />;
    case 'radiator':
      return (
        <>
          {boundOf(c)}
          <Quantity value={hottest(c)} kind="temperature" none="no end" /> ·{' '}
          <Quantity value={c.shed_kw} kind="power" />
        </>
      );
    case 'air':
      return (
        <>
          <Quantity value={c.air_available_m3_per_s} kind="airflow" bare={needed !== null} />
          {needed !== null && (
            <>
              {' '}
              of <Quantity value={needed} kind="airflow" bare />
            </>
          )}
        </>
      );
    case 'flow':
      return (
        <>
          <Quantity
            value={c.bottom_hose_c}
            kind="temperature"
            none={c.hunt ? 'no rest' : 'no end'}
          />{' '}
          · <Quantity value={c.pump_rise_kpa} kind="pressure" />
        </>
      );
    case 'thermostat':
      return (
        <>
          <Quantity value={evaluation.ladder.thermostat_opens_c} kind="temperature" /> ·{' '}
          <Quantity value={c.thermostat_lift} kind="share" />
        </>
      );
    case 'cap':
      return (
        <>
          <CapPressure /> ·{' '}
          {left(c.boiling_margin_k) ? (
            <Quantity value={c.boiling_margin_k} kind="temperature_difference" />
          ) : (
            'it boils'
          )}
        </>
      );
  }
}
