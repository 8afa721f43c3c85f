import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { Way } from '../../kit/page/Way';
import { Box, Button, Paragraph, Row, Title, Words } from '../../kit/primitives';

const STEPS = [
  ['Heater full, windows down.', 'It takes some of the heat: it may get you off the road.'],
  ['Pull over where you are safe.', 'Hazard lights on. Away from dry grass.'],
  ['Engine off.', 'If there is no steam and its fan runs, one minute of idle first does no harm.'],
  ['Do not open it.', 'Scalding coolant. Not the cap, not the bottle, not a hose.'],
  ['Bonnet only once no steam comes.', 'The fan can start by itself.'],
  ['Wait until the upper hose is cool to the hand.', 'Half an hour at least, mostly more.'],
  [
    'Then look at the level, fill with what there is.',
    'Slowly. Cold water into a hot head cracks it.',
  ],
  ['Have it towed rather than race home.', 'A tow costs an hour. A warped head costs the engine.'],
] as const;

/** It boils right now: readable at arm's length, and there without the server. */
export function RoadCard() {
  const navigate = useNavigate();
  useEffect(() => {
    document.title = 'It boils right now – Ebbrin';
  }, []);
  return (
    <Box as="article" aria-label="It boils right now">
      <Row justifyContent="space-between" flexWrap="wrap">
        <Title textStyle="huge" color="fails">
          It boils right now
        </Title>
        <Row gap="2" data-print="no">
          <Button onClick={() => window.print()}>Print</Button>
          <Button onClick={() => (window.history.length > 1 ? navigate(-1) : navigate('/'))}>
            Back
          </Button>
        </Row>
      </Row>
      <Box as="ol" marginTop="4">
        {STEPS.map(([what, why], n) => (
          <Box
            as="li"
            key={what}
            display="grid"
            gridTemplateColumns="44px minmax(0,1fr)"
            paddingBlock="3"
            borderTop="1px solid"
            borderColor="rule"
          >
            <Words size="huge" tone="fails" aria-hidden="true">
              {n + 1}
            </Words>
            <Box>
              <Words size="huge" display="block">
                {what}
              </Words>
              <Words size="large" tone="quiet" fontWeight="plain">
                {why}
              </Words>
            </Box>
          </Box>
        ))}
      </Box>
      <Box background="failsSoft" padding="4" marginTop="4">
        <Words size="large" display="block">
          What it costs to go on
        </Words>
        <Paragraph size="strong" fontWeight="plain" marginTop="1">
          A few minutes too hot warp an aluminium head and burn its gasket; without coolant the
          gauge may even fall while the engine dies. Local rules and a recovery service come first.
          This card is common practice of the trade.
        </Paragraph>
      </Box>
      <Paragraph marginTop="4" data-print="no">
        Cold again and safe? <Way to="/cause">Find the cause</Way>, or open its build.
      </Paragraph>
    </Box>
  );
}
