import { memo, useState } from 'react';
import { Box, Button, Heading, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import type { DriveCourse } from '../../model/api/types';
import { clock } from '../../model/document/drives';
import { fewEvents } from './course';

const SHOWN_EVENTS = 12;

/** What happens on a drive, leg by leg, and what is left of the coolant. */
export const Events = memo(function Events({
  course,
  onJump,
}: {
  readonly course: DriveCourse;
  readonly onJump: (time: number) => void;
}) {
  const [all, setAll] = useState(false);
  const shown = all ? course.events : fewEvents(course.events, SHOWN_EVENTS);
  return (
    <Box as="section" aria-label="What happens" marginTop="3">
      <Heading>What happens</Heading>
      <ul>
        {shown.map((event) => (
          <li key={`${event.time_s} ${event.kind}`}>
            <Button
              look="bare"
              minHeight="target"
              display="flex"
              gap="3"
              textAlign="left"
              whiteSpace="normal"
              onClick={() => onJump(event.time_s)}
            >
              <span>{clock(event.time_s)}</span>
              <Words as="span" fontWeight="plain">
                <Sentence text={event.text} />
              </Words>
            </Button>
          </li>
        ))}
      </ul>
      {course.events.length > SHOWN_EVENTS && (
        <Button look="bare" onClick={() => setAll(!all)}>
          {all ? 'fewer' : `all ${course.events.length}`}
        </Button>
      )}
      <Table aria-label="Legs and how hot they get">
        <TableHead>
          <tr>
            <Column>Leg</Column>
            <Column>from</Column>
            <Column>hottest</Column>
            <Column>at its end</Column>
          </tr>
        </TableHead>
        <TableBody>
          {course.legs.map((leg) => (
            <TableRow key={`${leg.from_s} ${leg.name}`}>
              <Cell>{leg.name}</Cell>
              <Cell>{clock(leg.from_s)}</Cell>
              <Cell>
                <Quantity value={leg.hottest_c} kind="temperature" />
              </Cell>
              <Cell>
                <Quantity value={leg.end_c} kind="temperature" />
              </Cell>
            </TableRow>
          ))}
        </TableBody>
      </Table>
      {(course.coolant_in_bottle_l > 0.05 || course.coolant_on_ground_l > 0.05) && (
        <Words display="block" tone="quiet">
          At the end <Quantity value={course.coolant_in_bottle_l} kind="volume" /> of coolant are in
          the bottle, <Quantity value={course.coolant_on_ground_l} kind="volume" /> on the ground.
        </Words>
      )}
    </Box>
  );
});
