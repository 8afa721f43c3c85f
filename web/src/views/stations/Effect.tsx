import type { ReactNode } from 'react';
import { Box, Words } from '../../kit/primitives';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import type { CaseResult, Evaluation } from '../../model/api/types';
import type { StationName } from '../../model/document/stations';
import { useSession } from '../../model/save/context';
import { useShownCase } from '../../model/save/shownCase';
import { noneFound } from '../../model/words/air';
import { left } from '../../model/words/left';
import { shedding } from '../../model/words/shedding';
import { Picture } from './Picture';
import { useFans } from './useFans';

/** What the station does in the shown case: its own few numbers, beside its fields. */
export function Effect({ station }: { readonly station: StationName }) {
  const evaluation = useSession((s) => s.evaluation);
  const shown = useShownCase();
  const pumped = useSession((s) => s.build.variants[s.variant]?.circuit?.pump_drive !== 'none');
  const fanned = useFans() > 0;
  if (!evaluation || !shown) return null;
  const notes = evaluation.findings.filter(
    (f) =>
      (f.station === station || (f.station === 'fan' && station === 'thermostat')) &&
      (f.case_id === null || f.case_id === shown.id),
  );
  return (
    <Box background="sunken" borderRadius="soft" padding="3" marginBottom={{ base: '5', lg: '0' }}>
      <Words size="small" tone="quiet" display="block">
        In {shown.name}
      </Words>
      <Words size="body" display="block" minHeight={station === 'cap' ? '5lh' : undefined}>
        {says(station, evaluation, shown, { pumped, fanned })}
      </Words>
      <Picture station={station} evaluation={evaluation} shown={shown} />
      {notes.map((note) => (
        <Words
          key={JSON.stringify(note.text)}
          size="body"
          tone={note.kind === 'warning' ? 'fails' : 'quiet'}
          display="block"
          marginTop="1"
        >
          {note.kind === 'warning' && <b>Mind: </b>}
          <Sentence text={note.text} />
        </Words>
      ))}
    </Box>
  );
}

function says(
  station: StationName,
  evaluation: Evaluation,
  c: CaseResult,
  { pumped, fanned }: { readonly pumped: boolean; readonly fanned: boolean },
): ReactNode {
  const heat = shedding(c.shed_kw);
  switch (station) {
    case 'engine':
      return (
        <>
          Brake power <Quantity value={c.heat.brake_power_kw} kind="power" /> sends{' '}
          <B>
            <Quantity value={c.heat.chosen_kw} kind="power" />
          </B>{' '}
          to the coolant
          {c.heat.gearbox_kw > 0 && (
            <>
              ; gearbox <Quantity value={c.heat.gearbox_kw} kind="power" /> more at the cold tank
            </>
          )}
          .
        </>
      );
    case 'coolant':
      return (
        <>
          Freezes at{' '}
          <B>
            <Quantity value={evaluation.ladder.freezes_c} kind="temperature" />
          </B>
          , boils at{' '}
          <B>
            <Quantity value={c.boils_c} kind="temperature" />
          </B>
          {c.boils_c - c.boils_without_cap_c < 0.5 ? (
            ', cap or no cap'
          ) : (
            <>
              {' '}
              under the cap and at <Quantity value={c.boils_without_cap_c} kind="temperature" /> if
              the cap fails
            </>
          )}
          . Flow <Quantity value={c.coolant_flow_l_per_min} kind="coolant_flow" />.
        </>
      );
    case 'radiator':
      return (
        <>
          {heat.said === 'shed' ? 'Sheds' : 'Takes up'}{' '}
          <B>
            <Quantity value={heat.kw} kind="power" />
          </B>{' '}
          at <Quantity value={c.conductance_kw_per_k} kind="conductance" />. {wanted(c.wanted)}
        </>
      );
    case 'air':
      return (
        <>
          {fanned && 'With the fan on '}
          <B>
            <Quantity value={c.air_available_m3_per_s} kind="airflow" />
          </B>{' '}
          pass the core at <Quantity value={c.air_available_pa} kind="air_pressure" />;{' '}
          {c.air_needed_m3_per_s === null ? (
            `${noneFound(c.verdict)}.`
          ) : (
            <>
              nine days in ten take{' '}
              <B>
                <Quantity value={c.air_needed_m3_per_s} kind="airflow" />
              </B>{' '}
              at <Quantity value={c.air_needed_pa} kind="air_pressure" />.
            </>
          )}
          {fanned && (
            <>
              {' '}
              The fan serves <Quantity value={c.air_under_fan_share} kind="share" /> of the face.
            </>
          )}
        </>
      );
    case 'flow':
      return (
        <>
          <B>
            <Quantity value={c.coolant_flow_l_per_min} kind="coolant_flow" />
          </B>{' '}
          against <Quantity value={c.pump_rise_kpa} kind="pressure" />; with the thermostat wide
          open the engine warms it by{' '}
          <Quantity value={c.full_flow_rise_k} kind="temperature_difference" />.{' '}
          {pumped && <InletLeft of={c} />}
          In the tubes <Quantity value={c.tube_velocity_m_per_s} kind="velocity" />, Re{' '}
          {c.tube_reynolds.toFixed(0)}; in the hoses{' '}
          <Quantity value={c.hose_velocity_m_per_s} kind="velocity" />.
          {c.cavitation_rpm !== null && left(c.pump_inlet_margin_kpa) && (
            <>
              {' '}
              At this heat the pump inlet begins to boil at{' '}
              <Quantity value={c.cavitation_rpm} kind="rotation" />.
            </>
          )}
        </>
      );
    case 'thermostat':
      return (
        <>
          Thermostat{' '}
          <B>
            <Quantity value={c.thermostat_lift} kind="share" />
          </B>{' '}
          open
          {fanned && (
            <>
              , fan on <Quantity value={c.fan_duty} kind="share" /> of the time
            </>
          )}
          . <Sentence text={evaluation.answers.thermostat.sentence} />.{' '}
          <Sentence text={c.detail ?? []} />
        </>
      );
    case 'cap':
      return (
        <>
          <BoilingLeft of={c} /> Over all cases: <Sentence text={evaluation.answers.cap.sentence} />
          . The fill grows by <Quantity value={evaluation.tank.growth_l} kind="volume" />: a
          recovery bottle wants <Quantity value={evaluation.tank.bottle_l} kind="volume" /> free
          {evaluation.tank.air_space_l !== null && (
            <>
              , a pressurised tank <Quantity value={evaluation.tank.air_space_l} kind="volume" /> of
              air when cold
            </>
          )}
          .
        </>
      );
  }
}

function InletLeft({ of }: { readonly of: CaseResult }) {
  const { pump_inlet_margin_kpa: held, pump_inlet_margin_without_cap_kpa: open } = of;
  if (!left(held)) return 'The coolant boils at the pump inlet. ';
  return (
    <>
      The pump inlet is <Quantity value={held} kind="pressure" /> clear of boiling,{' '}
      {left(open) ? (
        <>
          <Quantity value={open} kind="pressure" /> with no pressure
        </>
      ) : (
        'and boils with no pressure'
      )}
      .{' '}
    </>
  );
}

function BoilingLeft({ of }: { readonly of: CaseResult }) {
  const { boiling_margin_k: held, boiling_margin_without_cap_k: open } = of;
  if (!left(held)) return <B>It boils.</B>;
  return (
    <>
      <B>
        <Quantity value={held} kind="temperature_difference" />
      </B>{' '}
      left to boiling,{' '}
      {left(open) ? (
        <>
          <Quantity value={open} kind="temperature_difference" /> if the cap fails
        </>
      ) : (
        'and it boils if the cap fails'
      )}
      .
    </>
  );
}

/** How many times as much of one thing alone would be enough, and of what not even as much does as was looked at. */
export function wanted({ air, core, coolant, to_limit }: CaseResult['wanted']): string {
  const all = [
    ['the air', air],
    ['the core', core],
    ['the coolant flow', coolant],
  ] as const;
  const does = all.flatMap(([thing, factor]) => (factor === null ? [] : [times(factor, thing)]));
  const not = all.flatMap(([thing, factor]) => (factor === null ? [thing] : []));
  const lead = to_limit ? 'To come down to its limit' : 'For nine days in ten';
  const said = does.length > 0 ? [`${lead} it would take alone: ${does.join(', ')}.`] : [];
  if (not.length > 0) said.push(`Six times ${either(not)} alone would not do.`);
  return said.join(' ');
}

function times(factor: number, thing: string): string {
  if (factor < 0.2) return `a fifth or less of ${thing}`;
  return `${factor.toFixed(factor < 2 ? 2 : 1)} times ${thing}`;
}

const either = (things: readonly string[]): string =>
  [things.slice(0, -1).join(', '), things.at(-1)].filter(Boolean).join(' or ');

function B({ children }: { readonly children: ReactNode }) {
  return <Words size="strong">{children}</Words>;
}
