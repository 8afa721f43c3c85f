import { useId, useState } from 'react';
import { Field } from '../../kit/field/Field';
import { Labelled } from '../../kit/field/Labelled';
import { useNumberText } from '../../kit/field/useNumberText';
import { Offers } from '../../kit/page/Offers';
import { Box, Button, Grid, Heading, Input, Row, Select, Tick, Words } from '../../kit/primitives';
import type { Case, Drive, Leg } from '../../model/api/types';
import { MOST_LEGS, type Template, templates } from '../../model/document/drives';
import { caseFields } from '../../model/document/stations';
import { useOpened, useSession } from '../../model/save/context';

const OWN = ':own';
const REPEAT = { name: 'Repeat the last leg', hint: 'with the engine running' };
/** A leg lasts as long as it says, and begins where the one before has ended. */
const ownFields = caseFields.filter(
  (field) => field !== 'kind' && field !== 'duration_s' && field !== 'start_c',
);

/** The legs of a drive, a row each: which case, how long, engine running or not; a case of its own is edited below. */
export function LegRows({
  drive,
  path,
  onChange,
}: {
  readonly drive: Drive;
  /** Where the drive stands in the build. */
  readonly path: string;
  readonly onChange: (drive: Drive) => void;
}) {
  const cases = useSession((s) => s.build.cases);
  const [edited, setEdited] = useState<number | null>(null);
  const legs = drive.legs ?? [];
  const set = (next: Leg[]) => onChange({ ...drive, legs: next });
  const replace = (i: number, leg: Leg) => set(legs.map((entry, k) => (k === i ? leg : entry)));

  function choose(i: number, leg: Leg, id: string) {
    const picked = cases.find((entry) => entry.id === (id === OWN ? leg.case_id : id));
    if (!picked) return;
    if (id === OWN) {
      replace(i, { ...leg, case_id: null, case: ownCopy(picked) });
      setEdited(i);
    } else {
      replace(i, { ...leg, case_id: id, case: null });
      setEdited(null);
    }
  }

  return (
    <Box as="section" aria-label="Legs">
      <Row flexWrap="wrap" justifyContent="space-between">
        <Heading>Legs</Heading>
        <Words size="small" tone="quiet">
          min · engine runs
        </Words>
      </Row>
      <ol>
        {legs.map((leg, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: legs are told apart by their place alone
          <li key={i}>
            <Row gap="1" marginTop="1" flexWrap="wrap">
              {leg.case ? (
                <Button
                  flex="1"
                  minWidth="0"
                  textAlign="left"
                  paddingInline="2"
                  overflow="hidden"
                  textOverflow="ellipsis"
                  aria-expanded={edited === i}
                  aria-label={`Edit leg ${i + 1}, ${leg.case.name}`}
                  onClick={() => setEdited(edited === i ? null : i)}
                >
                  {edited === i ? '▾' : '▸'} {leg.case.name}
                </Button>
              ) : (
                <Select
                  flex="1"
                  minWidth="0"
                  aria-label={`Leg ${i + 1}`}
                  value={leg.case_id ?? ''}
                  onChange={(event) => choose(i, leg, event.target.value)}
                >
                  {cases.map((entry) => (
                    <option key={entry.id} value={entry.id}>
                      {entry.name}
                    </option>
                  ))}
                  <option value={OWN}>… changed for this leg alone</option>
                </Select>
              )}
              <Lasts
                label={`Minutes of leg ${i + 1}`}
                path={`${path}/legs/${i}/duration_s`}
                seconds={leg.duration_s ?? 300}
              />
              <Tick
                type="checkbox"
                flexShrink={0}
                aria-label={`Engine runs in leg ${i + 1}`}
                checked={leg.engine_runs ?? true}
                onChange={(event) => replace(i, { ...leg, engine_runs: event.target.checked })}
              />
              <Button
                look="bare"
                disabled={i === 0}
                aria-label={`Move leg ${i + 1} up`}
                onClick={() => {
                  setEdited(null);
                  set([
                    ...legs.slice(0, i - 1),
                    leg,
                    ...legs.slice(i - 1, i),
                    ...legs.slice(i + 1),
                  ]);
                }}
              >
                ↑
              </Button>
              <Button
                look="bare"
                disabled={legs.length === 1}
                aria-label={`Remove leg ${i + 1}`}
                onClick={() => {
                  setEdited(null);
                  set(legs.filter((_, k) => k !== i));
                }}
              >
                ×
              </Button>
            </Row>
            {leg.case && edited === i && (
              <OwnCase
                path={`${path}/legs/${i}/case`}
                onPlain={(id) => {
                  setEdited(null);
                  replace(i, { ...leg, case_id: id, case: null });
                }}
              />
            )}
          </li>
        ))}
      </ol>
      <AddLeg
        full={legs.length >= MOST_LEGS}
        onAdd={(template, build, variant) => {
          const added = template
            ? template.legs(build, variant, legs.at(-1))
            : legs.slice(-1).map((leg) => ({ ...leg, engine_runs: true }));
          set([...legs, ...added].slice(0, MOST_LEGS));
        }}
      />
    </Box>
  );
}

function ownCopy(entry: Case): Case {
  return { ...entry, id: 'own', kind: 'steady', duration_s: null, start_c: null };
}

/** The fields of a case that belongs to one leg. */
function OwnCase({
  path,
  onPlain,
}: {
  readonly path: string;
  readonly onPlain: (id: string) => void;
}) {
  const cases = useSession((s) => s.build.cases);
  const name = useSession((s) => (s.texts[`${path}/name`] ?? nameAt(s.build, path)) as string);
  const session = useOpened();
  const rename = (text: string) => {
    const { setValue, setText } = session.getState();
    if (text.trim()) setValue(`${path}/name`, text);
    else setText(`${path}/name`, text);
  };
  return (
    <Box background="sunken" borderRadius="soft" padding="3" marginBlock="2">
      <Labelled label="Name" wrong={name.trim() === '' && 'A leg needs a name.'}>
        <Input value={name} maxLength={120} onChange={(event) => rename(event.target.value)} />
      </Labelled>
      <Grid gridTemplateColumns="repeat(2, minmax(0,1fr))" gap="3" marginTop="2">
        {ownFields.map((field) => (
          <Field key={field} path={`${path}/${field}`} />
        ))}
      </Grid>
      <Select
        marginTop="3"
        aria-label="As in a case of the build"
        value=""
        onChange={(event) => onPlain(event.target.value)}
      >
        <option value="" disabled>
          Take a case of the build instead…
        </option>
        {cases.map((entry) => (
          <option key={entry.id} value={entry.id}>
            {entry.name}
          </option>
        ))}
      </Select>
    </Box>
  );
}

function nameAt(build: { drives?: Drive[] }, path: string): string {
  const [, , drive, , leg] = path.split('/');
  return build.drives?.[Number(drive)]?.legs?.[Number(leg)]?.case?.name ?? '';
}

function AddLeg({
  full,
  onAdd,
}: {
  readonly full: boolean;
  readonly onAdd: (
    template: Template | null,
    build: ReturnType<ReturnType<typeof useOpened>['getState']>['build'],
    variant: number,
  ) => void;
}) {
  const [open, setOpen] = useState(false);
  const session = useOpened();
  const add = (template: Template | null) => {
    const { build, variant } = session.getState();
    setOpen(false);
    onAdd(template, build, variant);
  };
  return (
    <Row gap="0" flexWrap="wrap">
      <Button look="bare" disabled={full} aria-expanded={open} onClick={() => setOpen(!open)}>
        + leg
      </Button>
      {open && (
        <Offers
          label="Legs to add"
          of={[REPEAT, ...templates]}
          onTake={(offer) => add('legs' in offer ? offer : null)}
        />
      )}
    </Row>
  );
}

/** How long a leg lasts; a number without a unit is minutes. */
function Lasts({
  label,
  path,
  seconds,
}: {
  readonly label: string;
  readonly path: string;
  readonly seconds: number;
}) {
  const id = useId();
  const { text, wrong, change, leave } = useNumberText(path, seconds);
  return (
    <>
      <Input
        aria-label={label}
        aria-describedby={wrong ? id : undefined}
        width="60px"
        flexShrink={0}
        textAlign="right"
        paddingInline="2"
        value={text}
        autoComplete="off"
        aria-invalid={wrong !== null || undefined}
        data-path={path}
        onChange={(event) => change(event.target.value)}
        onBlur={leave}
      />
      {wrong && (
        <Words id={id} role="alert" size="small" tone="fails" flexBasis="100%" order="1">
          {wrong}
        </Words>
      )}
    </>
  );
}
