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
  const mended = standing.mended.flatMap((name) => causes.get(name) ?? []);
  if (mended.length === 0 && !found.enough) return null;
  const best = found.causes.reduce((a, b) => (b.explains > a.explains ? b : a));
  return (
    <Box
      borderLeft="4px solid"
      borderColor={standing.closed ? 'holds' : 'accent'}
      paddingLeft="3"
      marginBottom="4"
      data-case={standing.closed ? 'closed' : 'open'}
    >
      {mended.length === 0 && found.enough && (
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
      {mended.map((cause) => (
        <Box key={cause.cause} marginBottom="2">
          <Heading>
            Mended: <Sentence text={cause.title} />
          </Heading>
          {standing.proved.includes(cause.cause) ? (
            <Paragraph tone="holds">
              Proved: <Sentence text={cause.proof} />.
            </Paragraph>
          ) : (
            <>
              <Paragraph marginBlock="1">
                Proof: <Sentence text={cause.proof} />.
              </Paragraph>
              <Button onClick={() => onAdd({ kind: 'proved', cause: cause.cause })}>
                That is so
              </Button>
            </>
          )}
        </Box>
      ))}
      {mended.length > 0 && standing.drove === null && (
        <>
          <Paragraph>Then drive it where it got hot, with an eye on a true thermometer.</Paragraph>
          <Row gap="2" marginTop="1">
            <Button onClick={() => onAdd({ kind: 'drove', value: 'cool' })}>It stayed cool</Button>
            <Button onClick={() => onAdd({ kind: 'drove', value: 'hot' })}>It got hot again</Button>
          </Row>
        </>
      )}
      {standing.drove === 'hot' && (
        <Paragraph tone="fails">
          Hot again: something else is wrong as well. Take back what is no longer so, and look on.
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
