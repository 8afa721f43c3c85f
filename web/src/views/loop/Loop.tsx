import { memo } from 'react';
import { Box, Station, Svg, Words } from '../../kit/primitives';
import { tone } from '../../kit/theme/temperature';
import { Quantity } from '../../kit/words/Quantity';
import type { CaseResult, Evaluation, Variant } from '../../model/api/types';
import type { StationName } from '../../model/document/stations';
import { inTheEnd } from '../../model/words/hottest';
import { Fill } from './figures';
import { AirStation, EngineStation, RadiatorStation } from './Stations';

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
export const Loop = memo(function Loop({ evaluation, variant, shownCase, onOpen }: Props) {
  const c = shownCase;
  const restless = c.hunt !== null;
  const top = inTheEnd(c);
  const bottom = c.bottom_hose_c;
  const pumped = variant.circuit?.pump_drive !== 'none';
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
            <Words size="small" display="block" fontWeight="strong">
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
        <HoseLabel
          side="top"
          title="top hose"
          temperature={top}
          note={`${restless ? ', at its hottest' : ''}${c.timed && top !== null ? ', if it went on' : ''}`}
        />
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
              <Fill of={variant} />
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
            aria-label={`${pumped ? 'Pump and hoses' : 'No pump, hoses'}, open their editor`}
          >
            <Words size="small" display="block" fontWeight="strong">
              {pumped ? 'Pump' : 'No pump'}
            </Words>
            <Words size="small" display="block">
              <Quantity value={c.pump_rise_kpa} kind="pressure" />
            </Words>
          </Station>
        </Box>
        <HoseLabel
          side="bottom"
          title="bottom hose"
          temperature={bottom}
          none={restless ? 'comes to no rest' : undefined}
        />
      </Box>
      <RadiatorStation c={c} variant={variant} onOpen={onOpen} />
      <AirStation c={c} variant={variant} onOpen={onOpen} />
    </Box>
  );
});

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
  none = 'never settles',
  note = '',
}: {
  readonly side: 'top' | 'bottom';
  readonly title: string;
  readonly temperature: number | null;
  /** What stands for a temperature that there is not. */
  readonly none?: string | undefined;
  readonly note?: string;
}) {
  return (
    <Box
      position="absolute"
      right={{ base: '4px', lg: '14px' }}
      top={side === 'top' ? 'calc(16% + 28px)' : 'calc(84% - 76px)'}
      textAlign="right"
    >
      <Words size="large" display="block">
        <Quantity value={temperature} kind="temperature" none={none} />
      </Words>
      <Words size="small" tone="quiet" display="block">
        {title} {side === 'top' ? '→' : '←'}
        {note}
      </Words>
    </Box>
  );
}
