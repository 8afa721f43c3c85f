import { useInfiniteQuery, useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { useState } from 'react';
import { Box, Button, Input, Paragraph, Row, Title, Words } from '../../kit/primitives';
import { nameRevision } from '../../model/api/client';
import { revisionQuery, revisionsQuery } from '../../model/api/queries';
import type { Build } from '../../model/api/types';
import { download } from '../../model/document/buildFile';
import { pathsThatDiffer, titleAt, valueAt } from '../../model/document/fields';
import { useSession } from '../../model/save/context';
import type { Units } from '../../model/units/quantities';
import { useUnits } from '../../model/units/store';
import { valueInWords } from '../compare/Compare';

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
        title={keep.isError ? `Not kept: ${keep.error.message}` : undefined}
        onChange={(event) => setText(event.target.value)}
        onBlur={settle}
      />
    </form>
  );
}

/** Every value that differs between a revision and the build as it stands. */
function Changes({ then, now }: { readonly then: Build; readonly now: Build }) {
  const units = useUnits((u) => u.units);
  const paths = pathsThatDiffer([then, now]);
  if (paths.length === 0)
    return (
      <Paragraph tone="quiet" paddingBottom="3">
        As the build stands now.
      </Paragraph>
    );
  return (
    <Box as="dl" paddingBottom="3" aria-label="What differs">
      {paths.map((path) => (
        <Box
          key={path}
          display="grid"
          gridTemplateColumns="minmax(0,1fr) minmax(0,1fr) minmax(0,1fr)"
          columnGap="3"
        >
          <dt>
            <Words size="small">{placeOf(path, now)}</Words>
          </dt>
          <dd>
            <Words size="small" tone="quiet">
              then {valueAtInWords(path, then, units)}
            </Words>
          </dd>
          <dd>
            <Words size="small">now {valueAtInWords(path, now, units)}</Words>
          </dd>
        </Box>
      ))}
    </Box>
  );
}

/** A field with the case or variant that it belongs to. */
export function placeOf(path: string, build: Build): string {
  const [list = '', index = '', ...rest] = path.split('/');
  const lists = build as unknown as Record<string, { name?: string }[] | undefined>;
  const owner = /^\d+$/.test(index) ? lists[list]?.[Number(index)]?.name : undefined;
  const title = rest.length > 0 || owner === undefined ? titleAt(`/${path}`) : 'all of it';
  return owner ? `${owner}: ${title}` : title;
}

/** A value of a build in words; lists and missing parts by how much is there. */
export function valueAtInWords(path: string, build: Build, units: Units): string {
  const value = valueAt(build, `/${path}`);
  if (value === undefined) return 'not there';
  if (Array.isArray(value)) return `${value.length}`;
  if (typeof value === 'object' && value !== null) return 'there';
  try {
    return valueInWords(`/${path}`, value, units);
  } catch {
    return String(value ?? 'not known');
  }
}
