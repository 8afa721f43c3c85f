import { memo, useEffect, useRef } from 'react';
import { Field } from '../../kit/field/Field';
import { Labelled } from '../../kit/field/Labelled';
import { Box, Button, Grid, Heading, Input, Row, Title, Words } from '../../kit/primitives';
import { isRelevant } from '../../model/document/fields';
import { caseFields, caseIndex, type StationName, stations } from '../../model/document/stations';
import { useSession } from '../../model/save/context';
import { FromShelf } from '../shelf/FromShelf';
import { shelfKindAt } from '../shelf/slots';
import { Effect } from './Effect';

const columns = { base: 'repeat(2, minmax(0,1fr))', lg: 'repeat(3, minmax(0,1fr))' };

/** The editor of a station. */
export const StationBench = memo(function StationBench({
  station,
  onClose,
}: {
  readonly station: StationName;
  readonly onClose: () => void;
}) {
  const spec = stations[station];
  const variant = useSession((s) => s.variant);
  const shownFields = useSession((s) =>
    spec.groups
      .map((g) => g.fields.filter((f) => isRelevant(s.build, `/variants/${variant}/${f}`)).join())
      .join('|'),
  );
  const shelved = shelfKindAt(station);
  const visible = shownFields.split('|').map((fields) => fields.split(',').filter(Boolean));
  return (
    <Frame title={spec.title} onClose={onClose}>
      {spec.caution && (
        <Words size="small" tone="fails" fontWeight="firm" display="block" marginBottom="3">
          Caution: {spec.caution}
        </Words>
      )}
      <Grid
        gridTemplateColumns={{ base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 524px' }}
        gap="5"
        alignItems="start"
      >
        <Box>
          {shelved && <FromShelf station={station} kind={shelved} />}
          {spec.groups.map((group, i) =>
            visible[i]?.length ? (
              <Box key={group.title} marginBottom="6">
                <Heading marginBottom="2">{group.title}</Heading>
                <Grid gridTemplateColumns="repeat(2, minmax(0,1fr))" gap="5" rowGap="4">
                  {visible[i].map((field) => (
                    <Field key={field} path={`/variants/${variant}/${field}`} />
                  ))}
                </Grid>
              </Box>
            ) : null,
          )}
        </Box>
        <Box
          order={{ base: -1, lg: 0 }}
          position={{ lg: 'sticky' }}
          top={{ lg: '8px' }}
          maxHeight={{ lg: 'calc(100dvh - 76px)' }}
          overflowY={{ lg: 'auto' }}
        >
          <Effect station={station} />
        </Box>
      </Grid>
    </Frame>
  );
});

/** The editor of a duty case. */
export const CaseBench = memo(function CaseBench({
  id,
  onClose,
  onRemove,
}: {
  readonly id: string;
  readonly onClose: () => void;
  readonly onRemove: (id: string) => void;
}) {
  const index = useSession((s) => caseIndex(s.build, id));
  const name = useSession((s) => s.build.cases[index]?.name ?? '');
  const alone = useSession((s) => s.build.cases.length === 1);
  const setValue = useSession((s) => s.setValue);
  if (index < 0) return null;
  return (
    <Frame title={`Case: ${name}`} onClose={onClose}>
      <Grid gridTemplateColumns={columns} gap="5" rowGap="4">
        <Labelled label="Name" wrong={name.trim() === '' && 'A case needs a name.'}>
          <Input
            value={name}
            maxLength={120}
            onChange={(event) => setValue(`/cases/${index}/name`, event.target.value)}
          />
        </Labelled>
        {caseFields.map((field) => (
          <Field key={field} path={`/cases/${index}/${field}`} />
        ))}
      </Grid>
      <Row marginTop="5">
        <Button disabled={alone} onClick={() => onRemove(id)}>
          Remove this case
        </Button>
        {alone && (
          <Words size="small" tone="quiet">
            A build keeps at least one case.
          </Words>
        )}
      </Row>
    </Frame>
  );
});

function Frame({
  title,
  onClose,
  children,
}: {
  readonly title: string;
  readonly onClose: () => void;
  readonly children: React.ReactNode;
}) {
  const heading = useRef<HTMLHeadingElement>(null);
  // biome-ignore lint/correctness/useExhaustiveDependencies: the keyboard follows to each newly opened editor
  useEffect(() => heading.current?.focus({ preventScroll: true }), [title.split(':')[0]]);
  return (
    <Box as="section" aria-label={title} paddingInline={{ base: '3', lg: '6' }} paddingBlock="4">
      <Row flexWrap="wrap" justifyContent="space-between" marginBottom="3">
        <Title ref={heading} tabIndex={-1} outline="none">
          {title}
        </Title>
        <Button onClick={onClose} title="Esc">
          Back to the loop
        </Button>
      </Row>
      {children}
    </Box>
  );
}
