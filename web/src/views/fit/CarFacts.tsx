import { Field } from '../../kit/field/Field';
import { Box, Grid, Heading, Paragraph, Title } from '../../kit/primitives';

const GROUPS: readonly (readonly [string, readonly string[]])[] = [
  ['Draining', ['drain', 'block_drains', 'stays_share', 'undertray', 'coolant_years']],
  [
    'Filling: where the air stands',
    [
      'filler',
      'filler_height_mm',
      'heater_height_mm',
      'outlet_height_mm',
      'bleed_screws',
      'bleed_height_mm',
      'heater_flow',
      'vent_run',
    ],
  ],
  [
    'Around the radiator',
    [
      'gearbox_lines',
      'condenser_bolted',
      'sensor',
      'feet',
      'fans_on_shroud',
      'fan_plugs',
      'shroud_lifts',
    ],
  ],
  ['In the way', ['heat_shield', 'airbox', 'battery', 'strut']],
  ['Age and state', ['hoses', 'hoses_years', 'clamps', 'cap', 'thermostat', 'belt']],
];

/** Facts of the car, asked once; each may stay unknown, and the plan says what hangs on it. */
export function CarFacts({ unknown }: { readonly unknown: readonly string[] }) {
  return (
    <Box paddingBlock="3" maxWidth="1000px">
      <Title>The car, where one works on it</Title>
      <Paragraph tone="quiet" marginBlock="2">
        Asked once for all variants. What nobody knows may stay open: the plan takes the careful way
        {unknown.length > 0 ? ` and asks for it. Open for this job: ${unknown.length}.` : '.'}
      </Paragraph>
      {GROUPS.map(([title, names]) => (
        <Box as="section" key={title} aria-label={title} marginTop="4">
          <Heading marginBottom="2">{title}</Heading>
          <Grid
            gridTemplateColumns={{
              base: 'minmax(0,1fr)',
              md: 'repeat(2, minmax(0,1fr))',
              lg: 'repeat(3, minmax(0,1fr))',
            }}
            gap="4"
          >
            {names.map((name) => (
              <Field key={name} path={`/car/${name}`} />
            ))}
          </Grid>
        </Box>
      ))}
    </Box>
  );
}
