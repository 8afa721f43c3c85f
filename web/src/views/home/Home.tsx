import { chakra } from '@chakra-ui/react';
import { useMutation, useQuery, useQueryClient } from '@tanstack/react-query';
import { type FormEvent, useEffect, useMemo, useState } from 'react';
import { Link, useNavigate } from 'react-router';
import { Labelled } from '../../kit/field/Labelled';
import { FilePicker } from '../../kit/overlay/FilePicker';
import {
  Box,
  Button,
  Heading,
  Input,
  Paragraph,
  Row,
  Select,
  Title,
  Words,
} from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import { VerdictMark } from '../../kit/words/VerdictMark';
import { archiveBuild, copyBuild, createBuild } from '../../model/api/client';
import { buildsQuery, healthQuery, readAgain } from '../../model/api/queries';
import { ProblemError } from '../../model/api/transport';
import type { BuildSummary } from '../../model/api/types';
import { readBuild } from '../../model/document/buildFile';
import { newBuild } from '../../model/document/newBuild';

const Entry = chakra('li', {
  base: {
    display: 'grid',
    gridTemplateColumns: { base: 'minmax(0,1fr)', lg: 'minmax(0,1fr) 170px' },
    alignItems: 'center',
    borderTop: '1px solid',
    borderColor: 'rule',
    _last: { borderBottom: '1px solid', borderColor: 'rule' },
  },
});
const EntryLink = chakra(Link, {
  base: {
    display: 'grid',
    gridTemplateColumns: {
      base: 'minmax(0,1fr) auto',
      lg: 'minmax(0,240px) minmax(0,1fr) 110px 150px',
    },
    gridTemplateAreas: {
      base: '"name verdict" "worst worst" "saved saved"',
      lg: '"name worst verdict saved"',
    },
    columnGap: '4',
    rowGap: '2',
    alignItems: 'center',
    paddingBlock: '4',
    paddingInline: { base: '1', lg: '3' },
    color: 'ink',
    textDecoration: 'none',
    _hover: { background: 'raised' },
  },
});

/** All builds with their worst case, and a new one. */
export function Home() {
  const builds = useQuery(buildsQuery());
  useEffect(() => {
    document.title = 'Builds – Ebbrin';
  }, []);
  return (
    <>
      <Title textStyle="huge">Builds</Title>
      <Paragraph tone="quiet" marginBlock="2" maxWidth="620px">
        Which radiator, how much air, which thermostat, which cap: for an engine with more heat than
        its car was made for.
      </Paragraph>
      <Box marginTop="6">
        {builds.isPending && <Paragraph>Looking…</Paragraph>}
        {builds.isError && (
          <Paragraph role="alert" tone="fails">
            The list cannot be read: {builds.error.message} Is Ebbrin running? Start it with
            ./start, then{' '}
            <Button look="bare" onClick={() => void builds.refetch()}>
              try again
            </Button>
          </Paragraph>
        )}
        {builds.data && <BuildList builds={builds.data} />}
      </Box>
      <NewBuild />
      <OpenFile />
      <LastBackup />
    </>
  );
}

const ORDERS = {
  saved: 'changed last',
  name: 'by name',
  worst: 'worst first',
} as const;
type Order = keyof typeof ORDERS;

/** Builds as they are searched and sorted; those that were put away are listed when asked for. */
export function sorted(
  builds: readonly BuildSummary[],
  order: Order,
  wanted: string,
): BuildSummary[] {
  const words = wanted.toLocaleLowerCase().split(/\s+/).filter(Boolean);
  const found = builds.filter((build) => {
    const text = `${build.name} ${build.workshop} ${build.worst_case ?? ''}`.toLocaleLowerCase();
    return words.every((word) => text.includes(word));
  });
  if (order === 'name') found.sort((a, b) => a.name.localeCompare(b.name, [], { numeric: true }));
  // What has no chance yet stands last.
  if (order === 'worst') found.sort((a, b) => (a.chance ?? 2) - (b.chance ?? 2));
  return found;
}

const FEW = 3;
const LISTED = 8;

function BuildList({ builds }: { readonly builds: readonly BuildSummary[] }) {
  const [wanted, setWanted] = useState('');
  const [order, setOrder] = useState<Order>('saved');
  const [away, setAway] = useState(false);
  const putAway = builds.filter((build) => build.archived);
  const shown = sorted(away ? putAway : builds.filter((build) => !build.archived), order, wanted);
  if (builds.length === 0) return <Paragraph>No build yet. Begin one below.</Paragraph>;
  return (
    <>
      {(builds.length >= FEW || putAway.length > 0) && (
        <Row flexWrap="wrap" gap="2" marginBottom="3">
          <Input
            aria-label="Search builds"
            placeholder="Search"
            type="search"
            width={{ base: '100%', md: '220px' }}
            value={wanted}
            onChange={(event) => setWanted(event.target.value)}
          />
          <Select
            aria-label="Order of builds"
            width="auto"
            value={order}
            onChange={(event) => setOrder(event.target.value as Order)}
          >
            {Object.entries(ORDERS).map(([value, words]) => (
              <option key={value} value={value}>
                {words}
              </option>
            ))}
          </Select>
          {(putAway.length > 0 || away) && (
            <Button look="bare" aria-pressed={away} onClick={() => setAway(!away)}>
              {away ? 'back to the others' : `${putAway.length} put away`}
            </Button>
          )}
        </Row>
      )}
      <ul aria-label="Builds">
        {shown.map((build) => (
          <BuildLine key={build.id} build={build} />
        ))}
      </ul>
      {shown.length === 0 && (
        <Paragraph tone="quiet">
          {wanted ? 'No build has that in its name, workshop or worst case.' : 'None here.'}
        </Paragraph>
      )}
    </>
  );
}

/** Copying a build, and putting it away or bringing it back. */
function LineActions({ build }: { readonly build: BuildSummary }) {
  const queries = useQueryClient();
  const [key, setKey] = useState(() => crypto.randomUUID());
  const copy = useMutation({
    mutationFn: () => copyBuild(build.id, key),
    onSuccess: () => {
      setKey(crypto.randomUUID());
      return readAgain(queries, ['builds']);
    },
  });
  const archive = useMutation({
    mutationFn: () => archiveBuild(build.id, !build.archived),
    onSuccess: () => readAgain(queries, ['builds']),
  });
  const error = copy.error ?? archive.error;
  return (
    <Row gap="0" justifyContent={{ lg: 'flex-end' }} flexWrap="wrap">
      <Button
        look="bare"
        aria-label={`Copy ${build.name}`}
        disabled={copy.isPending || !build.readable}
        onClick={() => copy.mutate()}
      >
        copy
      </Button>
      <Button
        look="bare"
        aria-label={`${build.archived ? 'Bring back' : 'Put away'} ${build.name}`}
        disabled={archive.isPending}
        onClick={() => archive.mutate()}
      >
        {build.archived ? 'bring back' : 'put away'}
      </Button>
      {error && (
        <Words role="alert" size="small" tone="fails">
          {error.message}
        </Words>
      )}
    </Row>
  );
}

function BuildLine({ build }: { readonly build: BuildSummary }) {
  const saved = new Date(build.saved_at).toLocaleString([], {
    dateStyle: 'medium',
    timeStyle: 'short',
  });
  return (
    <Entry>
      <EntryLink to={`/builds/${build.id}`}>
        <Box gridArea="name">
          <Words size="large" display="block">
            {build.name}
          </Words>
          <Words size="small" tone="quiet">
            {build.workshop}
          </Words>
        </Box>
        <Box gridArea="worst">
          {build.worst_case && (
            <Words size="small" tone="quiet" display="block">
              worst: {build.worst_case}
            </Words>
          )}
          <Words size="body">
            <Sentence text={build.sentence} />
          </Words>
        </Box>
        <Box gridArea="verdict">
          {build.verdict ? (
            <VerdictMark verdict={build.verdict} />
          ) : (
            <Words tone={build.readable ? 'quiet' : 'fails'}>{standing(build)}</Words>
          )}
        </Box>
        <Words gridArea="saved" size="small" tone="quiet" textAlign={{ lg: 'right' }}>
          {saved}
        </Words>
      </EntryLink>
      <LineActions build={build} />
    </Entry>
  );
}

function standing(build: BuildSummary): string {
  if (!build.readable) return 'cannot be read';
  return build.judged ? 'not judged yet' : 'being judged…';
}

/** How old the newest copy of all builds is. */
function LastBackup() {
  const health = useQuery(healthQuery());
  const backups = health.data?.backups;
  if (!backups) return null;
  const old = backups.made_at ? Date.now() - Date.parse(backups.made_at) > 2 * 86_400_000 : true;
  const when = backups.made_at
    ? new Date(backups.made_at).toLocaleString([], { dateStyle: 'medium', timeStyle: 'short' })
    : null;
  return (
    <Paragraph tone={old ? 'fails' : 'quiet'} marginTop="8" aria-label="Backup">
      {when
        ? `Last backup of all builds: ${when}, ${backups.kept} kept. `
        : 'No backup of these builds has been made. '}
      Make one to take away with: ebbrin backup FILE.
    </Paragraph>
  );
}

/** A build from a file that was exported here or elsewhere. */
function OpenFile() {
  const navigate = useNavigate();
  const open = useMutation({
    mutationFn: async (file: File) => createBuild(await readBuild(file), crypto.randomUUID()),
    onSuccess: (stored) => navigate(`/builds/${stored.id}`),
  });
  const errors = open.error instanceof ProblemError ? (open.error.problem.errors ?? []) : [];
  return (
    <Box as="section" aria-label="Open a file" marginTop="6">
      <Row>
        <FilePicker
          label="File with a build"
          accept=".json,application/json"
          disabled={open.isPending}
          onFile={(file) => open.mutate(file)}
        >
          Open a build from a file
        </FilePicker>
        <Words size="small" tone="quiet">
          JSON, as a build's history exports it
        </Words>
      </Row>
      {open.isError && (
        <Box role="alert" marginTop="2">
          <Words tone="fails" display="block">
            This file cannot be opened. {open.error.message}
          </Words>
          <ul>
            {errors.slice(0, LISTED).map((entry) => (
              <li key={`${entry.path} ${entry.message}`}>
                <Words size="small" tone="fails">
                  {entry.path || 'the whole file'}: {entry.message}
                </Words>
              </li>
            ))}
            {errors.length > LISTED && (
              <li>
                <Words size="small" tone="fails">
                  and {errors.length - LISTED} more
                </Words>
              </li>
            )}
          </ul>
        </Box>
      )}
    </Box>
  );
}

function NewBuild() {
  const navigate = useNavigate();
  const [name, setName] = useState('');
  const [workshop, setWorkshop] = useState('');
  const [missing, setMissing] = useState(false);
  // Asked again after a broken connection, the very same is stored once.
  const made = useMemo(
    () => ({ build: newBuild(name.trim(), workshop.trim()), key: crypto.randomUUID() }),
    [name, workshop],
  );
  const create = useMutation({
    mutationFn: () => createBuild(made.build, made.key),
    onSuccess: (stored) => navigate(`/builds/${stored.id}`),
  });
  function submit(event: FormEvent) {
    event.preventDefault();
    setMissing(name.trim() === '');
    if (name.trim() !== '') create.mutate();
  }
  return (
    <Box as="section" aria-label="New build" marginTop="10">
      <Heading>New build</Heading>
      <form onSubmit={submit} noValidate>
        <Row marginTop="2" alignItems="flex-start" flexWrap="wrap">
          <Labelled
            quiet
            label="What is it called?"
            width="260px"
            wrong={missing && 'Give the build a name first.'}
          >
            <Input
              value={name}
              maxLength={120}
              autoComplete="off"
              onChange={(event) => setName(event.target.value)}
            />
          </Labelled>
          <Labelled quiet label="Workshop (may stay empty)" width="260px">
            <Input
              value={workshop}
              maxLength={120}
              autoComplete="off"
              onChange={(event) => setWorkshop(event.target.value)}
            />
          </Labelled>
          <Button type="submit" look="main" marginTop="22px" disabled={create.isPending}>
            Begin the build
          </Button>
        </Row>
        {create.isError && (
          <Words role="alert" size="small" tone="fails">
            It could not be made: {create.error.message} What you typed is still here.
          </Words>
        )}
      </form>
    </Box>
  );
}
