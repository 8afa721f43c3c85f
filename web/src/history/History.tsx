import { useQuery } from '@tanstack/react-query';
import { differences } from '../api/fields';
import { revisionsQuery } from '../api/queries';
import { Box, Button, Paragraph, Row, Title, Words } from '../theme/primitives';
import { download } from '../workbench/buildFile';
import { useSession } from '../workbench/context';

/** Every saved revision of the build; any of them can be put back on top. */
export function History({ onDone }: { readonly onDone: () => void }) {
  const id = useSession((s) => s.id);
  const revision = useSession((s) => s.revision);
  const build = useSession((s) => s.build);
  const setBuild = useSession((s) => s.setBuild);
  const revisions = useQuery(revisionsQuery(id, revision));
  return (
    <Box
      as="section"
      aria-label="History"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="4"
      maxWidth="860px"
    >
      <Row justifyContent="space-between">
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
      <ul aria-label="Revisions">
        {(revisions.data ?? []).map((entry) => {
          const changed = differences(entry.build, build);
          return (
            <Box
              as="li"
              key={entry.revision}
              display="grid"
              gridTemplateColumns="64px 200px minmax(0,1fr) auto"
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
              <Words size="small" tone="quiet">
                {changed.length === 0
                  ? 'as the build stands now'
                  : `${changed.length} ${changed.length === 1 ? 'value differs' : 'values differ'}: ${changed.slice(0, 3).join(', ')}${changed.length > 3 ? ' …' : ''}`}
              </Words>
              <Button
                look="bare"
                disabled={changed.length === 0}
                onClick={() => setBuild(entry.build)}
              >
                Put back
              </Button>
            </Box>
          );
        })}
      </ul>
    </Box>
  );
}
