import { Box, Button, Heading, Paragraph, Row, Words } from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import type { Diagnosis } from '../../model/api/types';
import type { NewFinding } from '../../model/cases/kept';
import type { Standing } from '../../model/cases/standing';

/** What is to be mended once it is sure; then its proof and the drive that close the case. */
export function MendAndProve({
  found,
  standing,
  onAdd,
}: {
  readonly found: Diagnosis;
  readonly standing: Standing;
  readonly onAdd: (finding: NewFinding) => void;
}) {
  const causes = new Map(found.causes.map((cause) => [cause.cause, cause]));
  // One that this car cannot have any more, since it was changed, is still to be proved.
  const mended = standing.mended.map((name) => ({ name, cause: causes.get(name) }));
  const best = found.causes.reduce((a, b) => (b.explains > a.explains ? b : a));
  const next =
    mended.length === 0 || (standing.drove === 'hot' && !standing.mended.includes(best.cause));
  if (mended.length === 0 && !found.enough) return null;
  return (
    <Box
      borderLeft="4px solid"
      borderColor={standing.closed ? 'holds' : 'accent'}
      paddingLeft="3"
      marginBottom="4"
      data-case={standing.closed ? 'closed' : 'open'}
    >
      {next && found.enough && (
        <>
          <Heading>Sure enough to mend</Heading>
          <Paragraph marginBlock="1">
            <Sentence text={found.enough} />
          </Paragraph>
          {best.suggests.length > 0 && (
            <Paragraph size="small">
              Look as well at:{' '}
              {best.suggests.map((title, n) => (
                // biome-ignore lint/suspicious/noArrayIndexKey: titles never change their places
                <span key={n}>
                  {n > 0 ? '; ' : ''}
                  <Sentence text={title} />
                </span>
              ))}
              : {best.suggests_why}.
            </Paragraph>
          )}
          <Button
            look="main"
            marginTop="2"
            onClick={() => onAdd({ kind: 'mended', cause: best.cause })}
          >
            It is mended
          </Button>
        </>
      )}
      {mended.map(({ name, cause }) => {
        const proof = cause?.proof ?? ['it is there no more'];
        return (
          <Box key={name} marginBottom="2">
            <Heading>
              Mended: <Sentence text={cause?.title ?? [name.replaceAll('_', ' ')]} />
            </Heading>
            {standing.proved.includes(name) ? (
              <Paragraph tone="holds">
                Proved: <Sentence text={proof} />.
              </Paragraph>
            ) : (
              <Paragraph marginBlock="1">
                Proof: <Sentence text={proof} />.
              </Paragraph>
            )}
            <Row gap="3">
              {!standing.proved.includes(name) && (
                <Button onClick={() => onAdd({ kind: 'proved', cause: name })}>That is so</Button>
              )}
              <Button
                look="bare"
                paddingInline="0"
                onClick={() => onAdd({ kind: 'taken_back', cause: name })}
              >
                not mended after all
              </Button>
            </Row>
          </Box>
        );
      })}
      {mended.length > 0 && standing.drove === 'hot' && (
        <Paragraph tone="fails">
          Hot again: something else is wrong as well. Take back what is no longer so, and look on.
        </Paragraph>
      )}
      {mended.length > 0 && standing.drove !== 'cool' && (
        <>
          <Paragraph>Then drive it where it got hot, with an eye on a true thermometer.</Paragraph>
          <Row gap="2" marginTop="1">
            <Button onClick={() => onAdd({ kind: 'drove', value: 'cool' })}>It stayed cool</Button>
            <Button onClick={() => onAdd({ kind: 'drove', value: 'hot' })}>It got hot again</Button>
          </Row>
        </>
      )}
      {mended.length > 0 && standing.drove === 'cool' && !standing.closed && (
        <Paragraph>
          It stayed cool. The case closes once all that was mended is proved as well.
        </Paragraph>
      )}
      {standing.closed && (
        <Words size="strong" tone="holds">
          The case is closed: proved, and cool on the road.
        </Words>
      )}
    </Box>
  );
}
