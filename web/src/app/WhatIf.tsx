import { Labelled } from '../kit/field/Labelled';
import { Box, Button, Row, Slider, Words } from '../kit/primitives';
import { Quantity } from '../kit/words/Quantity';
import { VerdictMark } from '../kit/words/VerdictMark';
import type { Evaluation } from '../model/api/types';
import { useSession } from '../model/save/context';
import { formatQuantity } from '../model/units/format';
import { useUnits } from '../model/units/store';
import { counted } from '../model/words/counted';

const AMBIENT = { least: -20, most: 50 };
const ALTITUDE = { least: 0, most: 3500, step: 50 };

/** Air temperatures, °C, up to which all cases that share the site's ambient hold, null where one does in no air, and up to
 * which the odds are even. */
export function tippingPoints(
  evaluation: Evaluation,
  follows: (caseId: string) => boolean,
): { readonly holds: number | null; readonly limit: number } | null {
  const own = evaluation.cases.filter((entry) => follows(entry.id));
  const limits = own.map((entry) => entry.limiting_ambient_c).filter((end) => end !== null);
  const holding = own.map((entry) => entry.holding_ambient_c).filter((end) => end !== null);
  if (own.length === 0 || limits.length < own.length) return null;
  const holds = holding.length < own.length ? null : Math.min(...holding);
  return { holds, limit: Math.min(...limits) };
}

/** Ambient and altitude of the whole build dragged, to see where the verdict tips; kept only when told. */
export function WhatIf({ evaluation }: { readonly evaluation: Evaluation | null }) {
  const site = useSession((s) => s.whatIf);
  const own = useSession((s) => s.build.site);
  const cases = useSession((s) => s.build.cases);
  const tryAt = useSession((s) => s.tryAt);
  const keep = useSession((s) => s.keepWhatIf);
  const units = useUnits((u) => u.units);
  if (!site || !own) return null;
  const apart = cases.filter((entry) => entry.ambient_c != null || entry.altitude_m != null).length;
  const tips =
    evaluation &&
    tippingPoints(
      evaluation,
      (caseId) => cases.find((entry) => entry.id === caseId)?.ambient_c == null,
    );
  const worst = evaluation?.cases[0];
  return (
    <Box
      as="section"
      aria-label="What if"
      display="grid"
      gridTemplateColumns={{
        base: 'minmax(0,1fr) minmax(0,1fr)',
        lg: 'minmax(0,1fr) minmax(0,1fr) 330px auto',
      }}
      alignItems="center"
      columnGap="5"
      rowGap="2"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="1"
      background="accentSoft"
      borderBottom="1px solid"
      borderColor="rule"
    >
      <Labelled
        quiet
        gap="0"
        label={
          <>
            What if the air were{' '}
            <b>
              <Quantity value={site.ambient_c} kind="temperature" />
            </b>
            {site.ambient_c !== own.ambient_c && (
              <>
                {' '}
                instead of <Quantity value={own.ambient_c} kind="temperature" />
              </>
            )}
          </>
        }
      >
        <Slider
          min={Math.min(AMBIENT.least, own.ambient_c)}
          max={Math.max(AMBIENT.most, own.ambient_c)}
          step={1}
          value={site.ambient_c}
          aria-valuetext={formatQuantity(site.ambient_c, 'temperature', units)}
          onChange={(event) => tryAt({ ...site, ambient_c: Number(event.target.value) })}
        />
      </Labelled>
      <Labelled
        quiet
        gap="0"
        label={
          <>
            at{' '}
            <b>
              <Quantity value={site.altitude_m} kind="altitude" />
            </b>
            {site.altitude_m !== own.altitude_m && (
              <>
                {' '}
                instead of <Quantity value={own.altitude_m} kind="altitude" />
              </>
            )}
          </>
        }
      >
        <Slider
          min={Math.min(ALTITUDE.least, own.altitude_m)}
          max={Math.max(ALTITUDE.most, own.altitude_m)}
          step={ALTITUDE.step}
          value={site.altitude_m}
          aria-valuetext={formatQuantity(site.altitude_m, 'altitude', units)}
          onChange={(event) => tryAt({ ...site, altitude_m: Number(event.target.value) })}
        />
      </Labelled>
      <Box minHeight="40px" role="status" gridColumn={{ base: '1 / -1', lg: 'auto' }}>
        {worst && (
          <Row gap="2">
            <VerdictMark verdict={worst.verdict} />
            <Words size="small">{worst.name}</Words>
          </Row>
        )}
        <Words size="small" display="block">
          {tips ? (
            <>
              At this altitude it holds nine days in ten{' '}
              {tips.holds === null ? (
                'in no air that there is'
              ) : (
                <>
                  up to about <Quantity value={tips.holds} kind="temperature" />
                </>
              )}
              , at even odds up to <Quantity value={tips.limit} kind="temperature" />.
            </>
          ) : (
            'No air temperature can be named for all cases.'
          )}
          {apart > 0 && ` ${counted(apart, 'case keeps its', 'cases keep their')} own site.`}
        </Words>
      </Box>
      <Row gap="2" gridColumn={{ base: '1 / -1', lg: 'auto' }}>
        <Button look="main" onClick={keep}>
          Keep it
        </Button>
        <Button onClick={() => tryAt(null)}>Put back</Button>
      </Row>
    </Box>
  );
}
