import { Box, Row, Station, Svg, Words } from '../../kit/primitives';
import { Line, Path } from '../../kit/shapes';
import { Quantity } from '../../kit/words/Quantity';
import type { CaseResult, Variant } from '../../model/api/types';
import { fansOf } from '../../model/document/fans';
import type { StationName } from '../../model/document/stations';
import { noneFound } from '../../model/words/air';
import { agreeing } from '../../model/words/counted';
import { shedding } from '../../model/words/shedding';
import { Core } from './Core';
import { CapPressure } from './figures';

interface Props {
  readonly c: CaseResult;
  readonly variant: Variant;
  readonly onOpen: (station: StationName) => void;
}

const KIND = {
  petrol: 'petrol',
  petrol_boosted: 'boosted petrol',
  diesel: 'diesel',
  prechamber_diesel: 'prechamber diesel',
  side_valve: 'side-valve petrol',
} as const;

const shroudWords = { none: 'no shroud', ring: 'ring', full: 'full shroud' } as const;

export function EngineStation({ c, variant, onOpen }: Props) {
  return (
    <Station
      onClick={() => onOpen('engine')}
      height="100%"
      display="flex"
      flexDirection="column"
      alignItems="flex-start"
      aria-label="Engine and vehicle, open their editor"
    >
      <Words size="strong">Engine</Words>
      <Words size="small" tone="quiet">
        <Quantity value={variant.engine?.displacement_l ?? null} kind="displacement" />{' '}
        {KIND[variant.engine?.kind ?? 'petrol']}
      </Words>
      <Words
        textStyle={{ base: 'large', lg: 'huge' }}
        marginTop="4"
        color={c.verdict === 'fails' ? 'fails' : 'ink'}
      >
        <Quantity value={c.heat_kw} kind="power" />
      </Words>
      <Words size="body">to the coolant</Words>
      <Words size="small" tone="quiet" marginTop="1">
        band <Quantity value={c.heat_low_kw} kind="power" bare />–
        <Quantity value={c.heat_high_kw} kind="power" bare />, thirds rule{' '}
        <Quantity
          value={c.heat.schools.find((s) => s.school === 'thirds')?.heat_kw ?? null}
          kind="power"
          bare
        />
      </Words>
      <Box flex="1" />
      <Words size="body">
        <Words size="strong">
          +<Quantity value={c.engine_rise_k ?? c.full_flow_rise_k} kind="temperature_difference" />
        </Words>{' '}
        in the block
      </Words>
      <Words size="body">
        <Words size="strong">
          <Quantity value={c.engine_rpm} kind="rotation" bare />
        </Words>{' '}
        rpm
      </Words>
      <Words size="small" tone="accent">
        ▸ heat
      </Words>
    </Station>
  );
}

export function RadiatorStation({ c, variant, onOpen }: Props) {
  const radiator = variant.radiator;
  const heat = shedding(c.shed_kw);
  return (
    <Box position="relative" height="100%">
      <Box
        position="absolute"
        top="0"
        left="50%"
        transform="translate(-50%,-36px)"
        zIndex="hanging"
      >
        <Station
          paddingBlock="1"
          paddingInline="3"
          onClick={() => onOpen('cap')}
          whiteSpace="nowrap"
          aria-label="Cap and limits, open their editor"
        >
          <Words size="small" fontWeight="strong">
            Cap <CapPressure />
          </Words>
        </Station>
      </Box>
      <Station
        onClick={() => onOpen('radiator')}
        width="100%"
        height="100%"
        display="flex"
        flexDirection="column"
        alignItems="stretch"
        aria-label="Radiator core, open its editor"
      >
        <Words size="strong" marginTop="1">
          Radiator
        </Words>
        <Core c={c} variant={variant} />
        <Box flex="1" />
        <Words size="body">
          <Words size="strong">
            <Quantity value={heat.kw} kind="power" />
          </Words>{' '}
          {heat.said}
        </Words>
        <Words size="body">
          <Words size="strong">
            <Quantity value={c.conductance_kw_per_k} kind="conductance" />
          </Words>
        </Words>
        <Words size="small" tone="accent">
          ▸ {radiator?.flow === 'downflow' ? 'downflow' : 'crossflow'} core
        </Words>
      </Station>
    </Box>
  );
}

export function AirStation({ c, variant, onOpen }: Props) {
  const short = c.air_needed_m3_per_s !== null && c.air_needed_m3_per_s > c.air_available_m3_per_s;
  const thickness = Math.max(2, Math.min(20, 14 * Math.sqrt(c.air_flow_m3_per_s)));
  const fans = fansOf(variant);
  const driven = variant.air?.fan?.kind === 'mechanical' ? 'engine' : 'electric';
  const words =
    fans === 0
      ? 'no fan'
      : `${driven} ${agreeing(fans, 'fan', 'fans')}, ${shroudWords[variant.air?.shroud ?? 'none']}`;
  return (
    <Station
      onClick={() => onOpen('air')}
      border="none"
      background="transparent"
      height="100%"
      display="flex"
      flexDirection="column"
      alignItems="flex-start"
      aria-label="Air, fan and shroud, open their editor"
    >
      <Words size="strong">Air</Words>
      <Words size="small" tone="quiet">
        {words}
      </Words>
      <Svg
        width="100%"
        height="104px"
        viewBox="0 0 150 104"
        preserveAspectRatio="xMinYMid meet"
        marginTop="2"
        aria-hidden="true"
      >
        {[20, 52, 84].map((y) => (
          <g key={y}>
            <Line x1="20" x2="146" y1={y} y2={y} stroke="air" strokeWidth={thickness} />
            <Path d={`M2 ${y}l20 ${-thickness / 2 - 6}v${thickness + 12}z`} fill="air" />
          </g>
        ))}
      </Svg>
      <Box flex="1" />
      <Words size="large">
        <Quantity value={c.air_flow_m3_per_s} kind="airflow" />
      </Words>
      <Words
        size="small"
        tone={short ? (c.verdict === 'holds' ? 'tight' : c.verdict) : 'quiet'}
        fontWeight={short ? 'strong' : 'plain'}
      >
        {c.air_needed_m3_per_s === null ? (
          noneFound(c.verdict)
        ) : (
          <>
            needs <Quantity value={c.air_needed_m3_per_s} kind="airflow" />
            <br />
            at <Quantity value={c.air_needed_pa} kind="air_pressure" />
          </>
        )}
      </Words>
      <Row gap="1">
        <Words size="small" tone="accent">
          {fans === 0 ? (
            '▸ air'
          ) : c.fan_cycles ? (
            <>
              ▸ fan on <Quantity value={c.fan_duty} kind="share" />
            </>
          ) : (
            `▸ fan ${c.fan_duty > 0 ? 'on' : 'off'}`
          )}
        </Words>
      </Row>
    </Station>
  );
}
