import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Box, Button, Input, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { nameRevision } from '../../model/api/client';
import { revisionQuery, revisionsQuery } from '../../model/api/queries';
import { reasonOf } from '../../model/api/transport';
import type { Build } from '../../model/api/types';
import { download } from '../../model/document/buildFile';
import {
  byIds,
  pathsThatDiffer,
  placeIn,
  titlesOf,
  valueInWords,
} from '../../model/document/differing';
import { sameValue, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import type { Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';

/** Every saved revision of the build; any of them can be put back on top. */
export function History({ onDone }: { readonly onDone: () => void }) {
  const id = useSession((s) => s.id);
  const revision = useSession((s) => s.revision);
  const build = useSession((s) => s.build);
  const setBuild = useSession((s) => s.setBuild);
  const [compared, setCompared] = useState<number | null>(null);
  const [failed, setFailed] = useState<string | null>(null);
  const revisions = useInfiniteQuery(revisionsQuery(id, revision));
  const then = useQuery(revisionQuery(id, compared));
  const queries = useQueryClient();
  const putBack = (number: number) => {
    setFailed(null);
    queries
      .fetchQuery(revisionQuery(id, number))
      .then((stored) => setBuild(stored.build))
      .catch((error: Error) => setFailed(error.message));
  };
  return (
    <Box
      as="section"
      aria-label="History"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="4"
      maxWidth="1000px"
    >
      <Row flexWrap="wrap" justifyContent="space-between">
        <Title>History</Title>
        <Row gap="2">
          <Button onClick={() => download(build)}>Export as a file</Button>
          <Button onClick={onDone} title="Esc">
            Back to the loop
          </Button>
        </Row>
      </Row>
      <Paragraph tone="quiet" marginBlock="2">
        Each save is kept whole. Putting one back adds a revision on top; nothing is lost, and it
        can be undone.
      </Paragraph>
      {revisions.isError && (
        <Paragraph role="alert" tone="fails">
          The history cannot be read: {revisions.error.message}
        </Paragraph>
      )}
      {failed && (
        <Paragraph role="alert" tone="fails">
          This revision cannot be put back: {failed}
        </Paragraph>
      )}
      <ul aria-label="Revisions">
        {(revisions.data?.pages ?? []).flat().map((entry) => (
          <Box
            as="li"
            key={entry.revision}
            display="grid"
            gridTemplateColumns={{
              base: '32px minmax(0,1fr)',
              md: '40px 190px minmax(0,1fr) auto',
            }}
            alignItems="center"
            gap="3"
            borderTop="1px solid"
            borderColor="rule"
            minHeight="52px"
          >
            <Words size="strong">{entry.revision}</Words>
            <Words tone="quiet">
              {new Date(entry.saved_at).toLocaleString([], {
                dateStyle: 'medium',
                timeStyle: 'medium',
              })}
            </Words>
            <Box gridColumn={{ base: '1 / -1', md: 'auto' }}>
              <RevisionName id={id} revision={entry.revision} name={entry.revision_name} />
            </Box>
            <Row gap="0" gridColumn={{ base: '1 / -1', md: 'auto' }}>
              <Button
                look="bare"
                aria-expanded={compared === entry.revision}
                aria-label={`Compare revision ${entry.revision}`}
                onClick={() => setCompared(compared === entry.revision ? null : entry.revision)}
              >
                Compare
              </Button>
              <Button
                look="bare"
                disabled={entry.revision === revision}
                aria-label={`Put back revision ${entry.revision}`}
                onClick={() => putBack(entry.revision)}
              >
                Put back
              </Button>
            </Row>
            {compared === entry.revision && (
              <Box gridColumn={{ base: '1 / -1', md: '2 / -1' }}>
                {then.data ? (
                  <Changes then={then.data.build} now={build} />
                ) : (
                  <Paragraph tone={then.isError ? 'fails' : 'quiet'} paddingBottom="3">
                    {then.isError
                      ? `This revision cannot be read: ${then.error.message}`
                      : 'Looking…'}
                  </Paragraph>
                )}
              </Box>
            )}
          </Box>
        ))}
      </ul>
      {revisions.hasNextPage && (
        <Button
          marginTop="3"
          disabled={revisions.isFetchingNextPage}
          onClick={() => void revisions.fetchNextPage()}
        >
          Earlier revisions
        </Button>
      )}
    </Box>
  );
}

/** What a revision is called; typed and left, it is kept. */
function RevisionName({
  id,
  revision,
  name,
}: {
  readonly id: string;
  readonly revision: number;
  readonly name: string | null;
}) {
  const queries = useQueryClient();
  const [text, setText] = useState(name ?? '');
  const keep = useMutation({
    mutationFn: () => nameRevision(id, revision, text),
    onSuccess: () => queries.invalidateQueries({ queryKey: ['builds', id, 'revisions'] }),
  });
  const settle = () => {
    if (text.trim() !== (name ?? '')) keep.mutate();
  };
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        settle();
      }}
    >
      <Input
        aria-label={`Name of revision ${revision}`}
        placeholder="name it"
        value={text}
        maxLength={120}
        paddingInline="2"
        aria-invalid={keep.isError || undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={settle}
      />
      {keep.isError && (
        <Words size="small" tone="fails" role="alert" display="block">
          Not kept: {reasonOf(keep.error)}
        </Words>
      )}
    </form>
  );
}

/** Every value that differs between a revision and the build as it stands. */
function Changes({ then, now }: { readonly then: Build; readonly now: Build }) {
  const units = useUnits((u) => u.units);
  const changes = changesOf(then, now, units);
  if (changes.length === 0)
    return (
      <Paragraph tone="quiet" paddingBottom="3">
        {sameValue(then, now) ? 'As the build stands now.' : 'The same, in another order.'}
      </Paragraph>
    );
  return (
    <Box as="dl" paddingBottom="3" aria-label="What differs">
      {changes.map((change) => (
        <Box
          key={change.path}
          display="grid"
          gridTemplateColumns="minmax(0,1fr) minmax(0,1fr) minmax(0,1fr)"
          columnGap="3"
        >
          <dt>
            <Words size="small">{change.title}</Words>
          </dt>
          <dd>
            <Words size="small" tone="quiet">
              then {change.was}
            </Words>
          </dd>
          <dd>
            <Words size="small">now {change.is}</Words>
          </dd>
        </Box>
      ))}
    </Box>
  );
}

interface Change {
  readonly path: string;
  readonly title: string;
  readonly was: string;
  readonly is: string;
}

/** Field by field what differs between two states of a build, each with the case, variant or drive that it belongs to. */
export function changesOf(then: Build, now: Build, units: Units): Change[] {
  const [was, is] = [byIds(then), byIds(now)];
  const paths = pathsThatDiffer([was, is]);
  const titles = titlesOf(
    paths.map((path) => placeIn(now, path) ?? placeIn(then, path) ?? ''),
    units,
  );
  const said = (build: Build, path: string) => {
    const pointer = placeIn(build, path);
    return pointer === null
      ? 'not there'
      : valueInWords(build, pointer, valueAt(build, pointer), units);
  };
  return paths.map((path, i) => {
    const [list = '', id = '', ...rest] = path.split('/');
    const owner = [is, was]
      .map((build) => (build[list] as Record<string, { name?: string }> | undefined)?.[id])
      .find((entry) => typeof entry?.name === 'string')?.name;
    const title = rest.length === 0 && owner !== undefined ? 'all of it' : (titles[i] ?? path);
    return {
      path,
      title: owner === undefined ? title : `${owner}: ${title}`,
      was: said(then, path),
      is: said(now, path),
    };
  });
}
