import type { CaseResult, Evaluation } from '../api/types';
import { ConditionCosts } from '../curves/ConditionCosts';
import { CoreDrawing } from '../curves/CoreDrawing';
import { FanLines } from '../curves/FanLines';
import { HeatCurve } from '../curves/HeatCurve';
import { PumpLines } from '../curves/PumpLines';
import { HeatPerCase, Schools } from '../curves/Schools';
import { Strength } from '../curves/Strength';
import { Heading } from '../theme/primitives';
import { useSession } from '../workbench/context';
import { CapCandidates, ThermostatCandidates } from './Candidates';
import type { StationName } from './stations';

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
