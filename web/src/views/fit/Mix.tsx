import { useState } from 'react';
import { Labelled } from '../../kit/field/Labelled';
import { Box, Grid, Heading, Paragraph, Select, Title, Words } from '../../kit/primitives';
import { Cell, Column, Table, TableBody, TableHead, TableRow } from '../../kit/table/Table';
import { Mind } from '../../kit/words/Mind';
import { Paragraphs } from '../../kit/words/Paragraphs';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import { readRefractometer, tenYears, waterLeft, whatToPour } from '../../model/api/fit';
import forms from '../../model/api/forms.json';
import { reasonOf } from '../../model/api/transport';
import type { Build, MixQuestion } from '../../model/api/types';
import { useSession } from '../../model/save/context';
import { editable } from '../../model/units/format';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import { Figure, useFigure } from './Figure';
import { useAsked } from './useAsked';

const FILL = forms.MixQuestion;
type Kind = NonNullable<MixQuestion['kind']>;

type Typed = Partial<{
  kind: Kind;
  volume: string;
  now: string;
  want: string;
  drained: string;
  product: string;
}>;

const USUAL = 0.33;

/** Strength of the fill that another variant, marked as the one in the car, has; null where nobody knows. */
function inTheCar(build: Build, variant: string, kind: Kind): number | null {
  const old = build.variants.find((one) => one.id === build.standing)?.coolant;
  if (!old || build.standing === variant) return null;
  if (old.kind === 'water') return 0;
  return old.kind === kind ? (old.glycol_vol_share ?? null) : null;
}

const COLUMNS = {
  base: 'minmax(0,1fr)',
  md: 'repeat(2, minmax(0,1fr))',
  lg: 'repeat(4, minmax(0,1fr))',
};

/** What to pour for a strength, what a refractometer says, and how much water a waterless fill keeps. */
export function Mix({ build, variant }: { readonly build: Build; readonly variant: string }) {
  const found = build.variants.find((one) => one.id === variant);
  const coolant = found?.coolant;
  const units = useUnits((u) => u.units);
  const index = build.variants.findIndex((one) => one.id === variant);
  const assumed = useSession(
    (s) =>
      s.evaluation?.assumed.find((one) => one.path === `/variants/${index}/coolant/volume_l`)
        ?.value,
  );
  const litres = coolant?.volume_l ?? (typeof assumed === 'number' ? assumed : null);
  // What was not touched is the variant's own, also once that is another or its volume is known.
  const [typed, setTyped] = useState<Typed>({});
  const share = (value: number) => editable(value, 'share', units);
  const water = coolant?.kind === 'water';
  const {
    kind = coolant?.kind === 'propylene_glycol' ? 'propylene_glycol' : 'ethylene_glycol',
    volume = litres === null ? '' : editable(litres, 'volume', units),
    want = share(water ? 0 : (coolant?.glycol_vol_share ?? 0.5)),
    drained = '',
    product = water ? '0' : '1',
  } = typed;
  const known = inTheCar(build, variant, kind);
  const { now = share(known ?? USUAL) } = typed;
  const airs = build.cases.flatMap((one) => one.ambient_c ?? build.site?.ambient_c ?? []);
  const coldest = airs.length > 0 ? Math.min(...airs) : null;
  const type = (name: keyof Typed) => (text: string) => setTyped({ ...typed, [name]: text });
  const volumeL = useFigure(volume, 'volume', FILL.volume_l);
  const nowShare = useFigure(now, 'share', FILL.now_share);
  const wantShare = useFigure(want, 'share', FILL.want_share);
  const drainedL = useFigure(drained, 'volume', FILL.drained_l);
  const question: MixQuestion | null =
    volumeL != null && nowShare != null && wantShare != null && drainedL !== undefined
      ? {
          kind,
          volume_l: volumeL,
          now_share: nowShare,
          want_share: wantShare,
          drained_l: drainedL,
          product_share: Number(product),
          coldest_c: coldest,
        }
      : null;
  const answer = useAsked('mix', question, whatToPour);
  const mix = answer.data;
  return (
    <Box paddingBlock="3" maxWidth="1000px">
      <Title>What to pour</Title>
      {coolant?.kind === 'waterless' && (
        <Paragraph tone="quiet" marginTop="1">
          This variant is filled with waterless coolant: what counts there is how much water stays,
          below. Glycol and water are mixed here.
        </Paragraph>
      )}
      <Grid gridTemplateColumns={COLUMNS} gap="4" marginTop="3">
        <Labelled label="Coolant">
          <Select value={kind} onChange={(event) => type('kind')(event.target.value)}>
            <option value="ethylene_glycol">Ethylene glycol</option>
            <option value="propylene_glycol">Propylene glycol</option>
          </Select>
        </Labelled>
        <Figure
          label="All coolant"
          quantity="volume"
          within={FILL.volume_l}
          text={volume}
          onText={type('volume')}
        />
        <Figure
          label="Strength now"
          quantity="share"
          within={FILL.now_share}
          text={now}
          onText={type('now')}
          help={
            typed.now === undefined && known === null
              ? 'Nobody has said: a third is taken. A refractometer tells.'
              : 'Glycol by volume; 0 for water.'
          }
        />
        <Figure
          label="Strength wanted"
          quantity="share"
          within={FILL.want_share}
          text={want}
          onText={type('want')}
          help="33 to 60 % is usual."
        />
        <Figure
          label="Drained"
          quantity="volume"
          within={FILL.drained_l}
          text={drained}
          onText={type('drained')}
          help="Left open: the least that does it. Draining leaves 10 to 40 % behind."
        />
        <Labelled label="Poured in">
          <Select value={product} onChange={(event) => type('product')(event.target.value)}>
            <option value="1">Concentrate</option>
            <option value="0.5">Ready mixed, half and half</option>
            <option value="0.33">Ready mixed, a third</option>
            <option value="0">Distilled water</option>
          </Select>
        </Labelled>
      </Grid>
      {answer.isError && (
        <Paragraph role="alert" tone="fails" marginTop="3">
          {reasonOf(answer.error)}
        </Paragraph>
      )}
      {mix && question && (
        <Box role="status" marginTop="4">
          <Paragraph size="large" tone={mix.possible ? 'ink' : 'fails'}>
            <Sentence text={mix.lead} />
          </Paragraph>
          <Paragraph tone="quiet" marginTop="1">
            Freezes at{' '}
            <Quantity value={mix.freezes_now_c} kind="temperature" none="what no table says" /> now,
            at{' '}
            <Quantity value={mix.freezes_wanted_c} kind="temperature" none="what no table says" />{' '}
            then.
          </Paragraph>
          {mix.frost && mix.frost.length > 0 && <Mind texts={[mix.frost]} />}
          {mix.rounds.length > 1 && (
            <Box maxWidth="420px">
              <Table>
                <TableHead>
                  <tr>
                    <Column>Round of draining as much</Column>
                    <Column>Strength</Column>
                    <Column>Freezes at</Column>
                  </tr>
                </TableHead>
                <TableBody>
                  {mix.rounds.map((round) => (
                    <TableRow key={round.round}>
                      <Cell>{round.round}</Cell>
                      <Cell>
                        <Quantity value={round.strength} kind="share" />
                      </Cell>
                      <Cell>
                        <Quantity value={round.freezes_c} kind="temperature" none="" />
                      </Cell>
                    </TableRow>
                  ))}
                </TableBody>
              </Table>
            </Box>
          )}
          <Paragraphs texts={mix.notes} size="small" tone="quiet" marginTop="1" />
        </Box>
      )}
      <Refract kind={kind} />
      <Waterless litres={volumeL ?? null} />
      <Years litres={volumeL ?? null} strength={wantShare ?? null} />
    </Box>
  );
}

function Refract({ kind }: { readonly kind: Kind }) {
  const [freezes, setFreezes] = useState('');
  const at = useFigure(freezes, 'temperature', forms.RefractometerQuestion.freezing_c);
  const answer = useAsked(
    'refractometer',
    at == null ? null : { kind, freezing_c: at, error_k: 1 },
    readRefractometer,
  );
  return (
    <Box as="section" aria-label="Refractometer" marginTop="6">
      <Heading>Refractometer</Heading>
      <Grid gridTemplateColumns={COLUMNS} gap="4" marginTop="2">
        <Figure
          label="It shows"
          quantity="temperature"
          within={forms.RefractometerQuestion.freezing_c}
          text={freezes}
          onText={setFreezes}
          help="Its freezing point; good ones are right within a degree."
        />
      </Grid>
      {answer.isError && (
        <Paragraph role="alert" tone="fails">
          {reasonOf(answer.error)}
        </Paragraph>
      )}
      {answer.data && at != null && (
        <Paragraph role="status" marginTop="2">
          <Sentence text={answer.data.lead} />
        </Paragraph>
      )}
    </Box>
  );
}

function Waterless({ litres }: { readonly litres: number | null }) {
  const [left, setLeft] = useState('');
  const [flushes, setFlushes] = useState('1');
  const leftL = useFigure(left, 'volume', forms.WaterQuestion.left_l);
  const answer = useAsked(
    'water-left',
    leftL == null || litres === null
      ? null
      : { volume_l: litres, left_l: leftL, flushes: Number(flushes), left_is_water_share: 1 },
    waterLeft,
  );
  return (
    <Box as="section" aria-label="Waterless" marginTop="6">
      <Heading>Going waterless: how much water stays</Heading>
      <Grid gridTemplateColumns={COLUMNS} gap="4" marginTop="2">
        <Figure
          label="Left behind by draining"
          quantity="volume"
          within={forms.WaterQuestion.left_l}
          text={left}
          onText={setLeft}
          help="Heater and block keep a tenth to four tenths."
        />
        <Labelled label="Flushes with its fluid">
          <Select value={flushes} onChange={(event) => setFlushes(event.target.value)}>
            {['0', '1', '2', '3', '4'].map((n) => (
              <option key={n}>{n}</option>
            ))}
          </Select>
        </Labelled>
      </Grid>
      {answer.isError && (
        <Paragraph role="alert" tone="fails">
          {reasonOf(answer.error)}
        </Paragraph>
      )}
      {answer.data && leftL != null && (
        <Paragraph role="status" tone={answer.data.good ? 'holds' : 'tight'} marginTop="2">
          <Sentence text={answer.data.lead} />
        </Paragraph>
      )}
    </Box>
  );
}

/** Ten years of coolant, each way on one line. */
function Years({
  litres,
  strength,
}: {
  readonly litres: number | null;
  readonly strength: number | null;
}) {
  const answer = useAsked(
    'ten-years',
    litres === null || strength === null ? null : { volume_l: litres, strength },
    tenYears,
  );
  if (!answer.data) return null;
  return (
    <Box as="section" aria-label="Ten years of coolant" marginTop="6">
      <Heading>Ten years of coolant</Heading>
      <ul>
        {answer.data.map((one) => (
          <Box as="li" key={one.way} borderTop="1px solid" borderColor="rule" paddingBlock="2">
            <Words fontWeight="firm">{one.way}:</Words>{' '}
            <Words>
              {counted(one.fills, 'fill', 'fills')}, {counted(one.flushes, 'flush', 'flushes')},{' '}
              <Quantity value={one.litres} kind="volume" />, about{' '}
              <Quantity value={one.price} kind="money" />.
            </Words>{' '}
            <Words size="small" tone="quiet">
              <Sentence text={one.text} />
            </Words>
          </Box>
        ))}
      </ul>
      <Paragraph size="small" tone="quiet">
        Intervals are common practice and prices rough; the maker’s word comes first.
      </Paragraph>
    </Box>
  );
}
