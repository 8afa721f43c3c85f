import { useState } from 'react';
import { Box, Button, Heading, Row, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { CopyText } from '../../kit/words/CopyText';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import type { SizedRequirement } from '../../model/api/types';
import { shownUnit } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { specification, toldTo } from './specification';

type CaseNeed = SizedRequirement['cases'][number];

/** Columns of a case's needs: what is said above each, its quantity and its figure. */
const COLUMNS: readonly (readonly [string, string, (need: CaseNeed) => number])[] = [
  ['heat', 'power', (need) => need.heat_kw],
  ['at most', 'temperature', (need) => need.allowed_c],
  ['for each degree', 'conductance', (need) => need.heat_per_degree_kw_per_k],
  ['air', 'airflow', (need) => need.air_m3_per_s],
  ['at', 'air_pressure', (need) => need.air_pa],
  ['coolant', 'coolant_flow', (need) => need.coolant_l_per_min],
  ['at', 'pressure', (need) => need.coolant_kpa],
];

/** What the cases ask for, whoever makes it; all of it on request. */
export function Requirement({
  required,
  build,
}: {
  readonly required: SizedRequirement;
  readonly build: string;
}) {
  const [open, setOpen] = useState(false);
  const units = useUnits((u) => u.units);
  const face = required.chosen === null ? null : (required.faces[required.chosen] ?? null);
  const hardest = required.cases.find((entry) => entry.case_id === required.case_id);
  return (
    <Box as="section" aria-label="What the cases ask for">
      <Row flexWrap="wrap" justifyContent="space-between" alignItems="flex-start" gap="3">
        <Box>
          <Heading>What the cases ask for</Heading>
          <Words display="block">
            {face ? (
              <>
                <Words size="strong">
                  <Quantity value={face.face_m2} kind="area" /> of face
                </Words>
                , such as <Quantity value={face.width_mm} kind="length" bare /> ×{' '}
                <Quantity value={face.height_mm} kind="length" />, with <Sentence text={face.air} />
                {hardest && (
                  <>
                    ; {hardest.name} asks for it: <Quantity value={hardest.heat_kw} kind="power" />{' '}
                    at <Quantity value={hardest.allowed_c} kind="temperature" />
                  </>
                )}
                .{!face.in_room && ' There is no room for so much: see what the parts can do.'}
              </>
            ) : (
              'No core is large enough, with any of these ways to move the air.'
            )}
          </Words>
        </Box>
        <Button aria-expanded={open} onClick={() => setOpen(!open)}>
          {open ? 'Less' : 'For the radiator shop'}
        </Button>
      </Row>
      {open && (
        <Box background="sunken" borderRadius="soft" padding="4" marginTop="2">
          <ul aria-label="Ways to move the air">
            {required.faces.map((option, i) => (
              <Words
                as="li"
                key={JSON.stringify(option.air)}
                display="block"
                fontWeight={i === required.chosen ? 'strong' : 'plain'}
              >
                With <Sentence text={option.air} />:{' '}
                {option.face_m2 === null ? (
                  'no core is large enough'
                ) : (
                  <>
                    <Quantity value={option.face_m2} kind="area" />
                    {!option.in_room && ', more than there is room for'}
                  </>
                )}
              </Words>
            ))}
          </ul>
          <Table stack="md" aria-label="What each case asks for">
            <TableHead>
              <tr>
                <Column>Case</Column>
                {COLUMNS.map(([says, kind]) => (
                  <Column key={kind}>
                    {says} {shownUnit(kind, units).symbol}
                  </Column>
                ))}
              </tr>
            </TableHead>
            <TableBody>
              {required.cases.map((need) => (
                <TableRow key={need.case_id}>
                  <Cell gridColumn="1 / -1" fontWeight="firm">
                    {need.name}
                  </Cell>
                  {COLUMNS.map(([says, kind, figure]) => (
                    <Cell key={kind} data-label={`${says} ${shownUnit(kind, units).symbol}`}>
                      <Quantity value={figure(need)} kind={kind} bare />
                    </Cell>
                  ))}
                </TableRow>
              ))}
            </TableBody>
          </Table>
          <Words display="block" marginTop="3">
            Thermostat: {required.thermostats_c.length === 0 && 'none of the common ones works'}
            {required.thermostats_c.map((opens, i) => (
              <span key={opens}>
                {i > 0 && ', '}
                <Quantity value={opens} kind="temperature" />
              </span>
            ))}
            .{' '}
            {required.fan_on_c !== null && (
              <>
                Fan on at <Quantity value={required.fan_on_c} kind="temperature" />, off at{' '}
                <Quantity value={required.fan_off_c} kind="temperature" />.{' '}
              </>
            )}
            {required.cap_highest_kpa === 0 ? (
              `Cap: an open one${required.cap_lowest_kpa === 0 ? '' : ' at most, and that is not enough'}.`
            ) : (
              <>
                Cap: at least{' '}
                <Quantity value={required.cap_lowest_kpa} kind="pressure" none="none does" />, at
                most <Quantity value={required.cap_highest_kpa} kind="pressure" none="none" />.
              </>
            )}
          </Words>
          {toldTo(required).map(([title, texts]) => (
            <Box key={title} marginTop="3">
              <Heading>{title}</Heading>
              <ul>
                {texts.map((text) => (
                  <Words as="li" key={JSON.stringify(text)} display="block" marginTop="1">
                    <Sentence text={text} />
                  </Words>
                ))}
              </ul>
            </Box>
          ))}
          <CopyText
            text={() => specification(build, required, units)}
            says="Copy the specification"
          />
        </Box>
      )}
    </Box>
  );
}
