import type { CaseResult, Evaluation, Variant } from '../api/types';
import type { StationName } from '../bench/stations';
import { Box, Circle, Line, Path, Rect, Row, Station, Svg, Words } from '../theme/primitives';
import { tone } from '../theme/temperature';
import { Quantity } from '../units/Quantity';

interface Props {
  readonly evaluation: Evaluation;
  readonly variant: Variant;
  readonly shownCase: CaseResult;
  readonly onOpen: (station: StationName) => void;
}

/** Width of a hose in px for a flow in L/min; a shut thermostat leaves a thread. */
export function hoseWidth(flow: number): number {
  return Math.max(1.5, Math.min(22, 1.5 * Math.sqrt(flow)));
}

/** The build as its own coolant circuit, drawn from the computed state of one case. */
export function Loop({ evaluation, variant, shownCase, onOpen }: Props) {
  const c = shownCase;
  const top = c.top_hose_c ?? null;
  const bottom = c.bottom_hose_c ?? null;
  return (
    <Box
      as="section"
      aria-label={`Coolant loop in ${c.name}`}
      position="relative"
      display="grid"
      gridTemplateColumns={{
        base: '126px minmax(150px,1fr) 136px 108px',
        lg: '184px minmax(240px,1fr) 172px 190px',
      }}
      height={{ base: '360px', lg: '322px' }}
      paddingInline={{ base: '3', lg: '6' }}
      paddingTop="44px"
      paddingBottom="3"
    >
      <EngineStation c={c} variant={variant} onOpen={onOpen} />
      <Box position="relative">
        <Hose at="16%" flow={c.coolant_flow_l_per_min} temperature={top} />
        <Hose at="84%" flow={c.coolant_flow_l_per_min} temperature={bottom} />
        <Box
          position="absolute"
          left={{ base: '4px', lg: '18px' }}
          top="16%"
          transform="translateY(-50%)"
        >
          <Station
            padding="2"
            onClick={() => onOpen('thermostat')}
            aria-label="Thermostat, open its editor"
          >
            <Words size="small" display="block" fontWeight={620}>
              Thermostat
            </Words>
            <Words size="small" display="block">
              <Quantity value={evaluation.ladder.thermostat_opens_c} kind="temperature" />,{' '}
              {c.thermostat_lift >= 1 ? (
                'wide open'
              ) : c.thermostat_lift <= 0 ? (
                'shut'
              ) : (
                <>
                  <Quantity value={c.thermostat_lift} kind="share" /> open
                </>
              )}
            </Words>
          </Station>
        </Box>
        <HoseLabel side="top" title="top hose" temperature={top} timed={c.timed !== null} />
        <Box
          position="absolute"
          left={{ base: '4px', lg: '18px' }}
          top="50%"
          transform="translateY(-50%)"
        >
          <Station
            border="none"
            background="transparent"
            padding="1"
            onClick={() => onOpen('coolant')}
            aria-label="Coolant, open its editor"
          >
            <Words size="large" display="block">
              <Quantity value={c.coolant_flow_l_per_min} kind="coolant_flow" />
            </Words>
            <Words size="small" tone="quiet" display="block">
              {variant.coolant?.kind === 'water' ? (
                'water'
              ) : (
                <>
                  <Quantity value={variant.coolant?.glycol_vol_share ?? 0.5} kind="share" /> glycol
                </>
              )}
            </Words>
            <Words size="small" tone="accent" display="block">
              ▸ coolant
            </Words>
          </Station>
        </Box>
        <Box
          position="absolute"
          left={{ base: '4px', lg: '18px' }}
          top="84%"
          transform="translateY(-50%)"
        >
          <Station
            borderRadius="round"
            paddingInline="4"
            onClick={() => onOpen('flow')}
            aria-label="Pump and hoses, open their editor"
          >
            <Words size="small" display="block" fontWeight={620}>
              Pump
            </Words>
            <Words size="small" display="block">
              <Quantity value={c.pump_rise_kpa} kind="pressure" />
            </Words>
          </Station>
        </Box>
        <HoseLabel side="bottom" title="bottom hose" temperature={bottom} timed={false} />
      </Box>
      <RadiatorStation c={c} variant={variant} onOpen={onOpen} />
      <AirStation c={c} variant={variant} onOpen={onOpen} />
    </Box>
  );
}

function EngineStation({
  c,
  variant,
  onOpen,
}: {
  readonly c: CaseResult;
  readonly variant: Variant;
  readonly onOpen: Props['onOpen'];
}) {
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
        band <Quantity value={c.heat.low_kw} kind="power" bare />–
        <Quantity value={c.heat.high_kw} kind="power" bare />, thirds rule{' '}
        <Quantity value={c.heat.thirds_kw} kind="power" bare />
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

const KIND = { petrol: 'petrol', petrol_boosted: 'boosted petrol', diesel: 'diesel' } as const;

function Hose({
  at,
  flow,
  temperature,
}: {
  readonly at: string;
  readonly flow: number;
  readonly temperature: number | null;
}) {
  const width = hoseWidth(flow);
  return (
    <Svg
      position="absolute"
      left="-1px"
      right="-1px"
      top={at}
      width="calc(100% + 2px)"
      height="24px"
      transform="translateY(-50%)"
      aria-hidden="true"
      preserveAspectRatio="none"
      viewBox="0 0 100 24"
    >
      <line
        x1="0"
        x2="100"
        y1="12"
        y2="12"
        stroke={tone(temperature)}
        strokeWidth={width}
        strokeDasharray={width < 2 ? '3 2' : undefined}
        vectorEffect="non-scaling-stroke"
      />
    </Svg>
  );
}

function HoseLabel({
  side,
  title,
  temperature,
  timed,
}: {
  readonly side: 'top' | 'bottom';
  readonly title: string;
  readonly temperature: number | null;
  readonly timed: boolean;
}) {
  return (
    <Box
      position="absolute"
      right={{ base: '4px', lg: '14px' }}
      top={side === 'top' ? 'calc(16% + 28px)' : 'calc(84% - 76px)'}
      textAlign="right"
    >
      <Words size="large" display="block">
        <Quantity value={temperature} kind="temperature" none="never settles" />
      </Words>
      <Words size="small" tone="quiet" display="block">
        {title} {side === 'top' ? '→' : '←'}
        {timed && temperature !== null ? ', if it went on' : ''}
      </Words>
    </Box>
  );
}

function RadiatorStation({
  c,
  variant,
  onOpen,
}: {
  readonly c: CaseResult;
  readonly variant: Variant;
  readonly onOpen: Props['onOpen'];
}) {
  const radiator = variant.radiator;
  return (
    <Box position="relative" height="100%">
      <Box position="absolute" top="0" left="50%" transform="translate(-50%,-36px)" zIndex="1">
        <Station
          paddingBlock="1"
          paddingInline="3"
          onClick={() => onOpen('cap')}
          whiteSpace="nowrap"
          aria-label="Cap and limits, open their editor"
        >
          <Words size="small" fontWeight={620}>
            Cap <Quantity value={variant.cap?.pressure_kpa ?? 90} kind="pressure" />
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
            <Quantity value={c.shed_kw} kind="power" />
          </Words>{' '}
          shed
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

/** The core to its own proportions, with its tubes and what the fan sweeps. */
function Core({ c, variant }: { readonly c: CaseResult; readonly variant: Variant }) {
  const width = variant.radiator?.width_mm ?? 500;
  const height = variant.radiator?.height_mm ?? 400;
  const scale = Math.min(140 / width, 112 / height);
  const w = width * scale;
  const h = height * scale;
  const across = variant.radiator?.flow !== 'downflow';
  const lines = Array.from({ length: Math.floor((across ? h : w) / 7) }, (_, i) => 3.5 + i * 7);
  const radius = ((variant.air?.fan?.diameter_mm ?? 380) / 2) * scale;
  const fan = variant.air?.fan?.kind !== 'none';
  const mean =
    c.top_hose_c === null || c.bottom_hose_c === null ? null : (c.top_hose_c + c.bottom_hose_c) / 2;
  return (
    <Svg
      width="100%"
      height="116px"
      viewBox={`${-70} ${-58} 140 116`}
      marginTop="2"
      aria-hidden="true"
    >
      <rect x={-w / 2} y={-h / 2} width={w} height={h} fill={tone(mean)} />
      {lines.map((at) => (
        <Path
          key={at}
          d={across ? `M${-w / 2} ${-h / 2 + at}h${w}` : `M${-w / 2 + at} ${-h / 2}v${h}`}
          stroke="raised"
          strokeWidth="0.8"
          opacity="0.55"
        />
      ))}
      {fan && variant.air?.shroud === 'full' && (
        <Rect
          x={-w / 2 + 3}
          y={-h / 2 + 3}
          width={w - 6}
          height={h - 6}
          fill="none"
          stroke="raised"
          strokeWidth="2"
        />
      )}
      {fan && (
        <Circle
          cx="0"
          cy="0"
          r={radius}
          fill="none"
          stroke="raised"
          strokeWidth="2"
          strokeDasharray="5 4"
        />
      )}
    </Svg>
  );
}

function AirStation({
  c,
  variant,
  onOpen,
}: {
  readonly c: CaseResult;
  readonly variant: Variant;
  readonly onOpen: Props['onOpen'];
}) {
  const short = c.air_needed_m3_per_s !== null && c.air_needed_m3_per_s > c.air_available_m3_per_s;
  const thickness = Math.max(2, Math.min(20, 14 * Math.sqrt(c.air_flow_m3_per_s)));
  const fan = variant.air?.fan?.kind ?? 'electric';
  const words =
    fan === 'none'
      ? 'no fan'
      : `${fan === 'electric' ? 'electric' : 'engine'} fan, ${variant.air?.shroud === 'full' ? 'full shroud' : 'no shroud'}`;
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
        fontWeight={short ? 620 : 450}
      >
        {c.air_needed_m3_per_s === null ? (
          'no air is enough'
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
          ▸ fan{' '}
          {c.fan_cycles ? (
            <>
              on <Quantity value={c.fan_duty} kind="share" />
            </>
          ) : c.fan_duty > 0 ? (
            'on'
          ) : fan === 'none' ? (
            ''
          ) : (
            'off'
          )}
        </Words>
      </Row>
    </Station>
  );
}
