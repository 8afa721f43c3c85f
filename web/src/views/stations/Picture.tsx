import { Heading } from '../../kit/primitives';
import type { CaseResult, Evaluation } from '../../model/api/types';
import type { StationName } from '../../model/document/stations';
import { useSession } from '../../model/save/context';
import { CapCandidates, ThermostatCandidates } from './Candidates';
import { ConditionCosts } from './ConditionCosts';
import { CoreDrawing } from './CoreDrawing';
import { FanLines } from './FanLines';
import { HeatCurve } from './HeatCurve';
import { PumpLines } from './PumpLines';
import { HeatPerCase, Schools } from './Schools';
import { Strength } from './Strength';

/** The physics of a station, drawn for the shown case. */
export function Picture({
  station,
  evaluation,
  shown,
}: {
  readonly station: StationName;
  readonly evaluation: Evaluation;
  readonly shown: CaseResult;
}) {
  const school = useSession((s) => s.build.variants[s.variant]?.engine?.heat_school ?? '');
  switch (station) {
    case 'engine':
      return (
        <>
          <Schools shown={shown} chosen={school} />
          <Heading marginTop="3">In each case</Heading>
          <HeatPerCase evaluation={evaluation} />
        </>
      );
    case 'coolant':
      return <Strength evaluation={evaluation} />;
    case 'radiator':
      return (
        <>
          <CoreDrawing />
          <Heading marginTop="3">Its condition</Heading>
          <ConditionCosts />
          <Heading marginTop="3">Heat against air</Heading>
          <HeatCurve of="air" />
        </>
      );
    case 'air':
      return (
        <>
          <FanLines />
          <Heading marginTop="3">Heat against air</Heading>
          <HeatCurve of="air" />
        </>
      );
    case 'flow':
      return (
        <>
          <PumpLines />
          <Heading marginTop="3">Heat against coolant flow</Heading>
          <HeatCurve of="coolant" />
        </>
      );
    case 'thermostat':
      return <ThermostatCandidates />;
    case 'cap':
      return <CapCandidates />;
  }
}
