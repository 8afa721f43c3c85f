import { Fold } from '../../kit/page/Fold';
import { Photos } from '../../kit/photos/Photos';
import { Box, Words } from '../../kit/primitives';
import type { CaseFinding, Diagnosis, Text } from '../../model/api/types';
import { useUnits } from '../../model/units/store';
import { counted } from '../../model/words/counted';
import { plainText } from '../../model/words/plainText';

/** All that was found and done in a case, the newest first; nothing is ever taken out of it. */
export function CaseLog({
  found,
  findings,
}: {
  readonly found: Diagnosis;
  readonly findings: readonly CaseFinding[];
}) {
  const units = useUnits((choice) => choice.units);
  const say = (text: Text) => plainText(text, units);
  if (findings.length === 0) return null;
  return (
    <Fold
      marginTop="3"
      bar={{ paddingBlock: '3' }}
      title={
        <Words size="small" tone="quiet">
          log of this case, {counted(findings.length, 'entry', 'entries')}
        </Words>
      }
    >
      <ol reversed>
        {[...findings].reverse().map((one) => (
          <Box as="li" key={one.id} borderTop="1px solid" borderColor="rule" paddingBlock="1">
            <Words size="small" tone="quiet" display="block">
              {new Date(one.at).toLocaleString([], { dateStyle: 'short', timeStyle: 'short' })}
            </Words>
            <Words size="small">{saidOf(one, found, say)}</Words>
            {one.photo && <Photos entries={[one]} />}
          </Box>
        ))}
      </ol>
    </Fold>
  );
}

/** A finding in words; by its ids where its words are not at hand. */
export function saidOf(
  one: CaseFinding,
  found: Pick<Diagnosis, 'seen' | 'questions' | 'next' | 'others' | 'causes'>,
  say: (text: Text) => string,
): string {
  const test = [...found.seen, ...found.questions, ...found.next, ...found.others].find(
    (known) => known.observation === one.observation,
  );
  const cause = found.causes.find((known) => known.cause === one.cause);
  const title = cause ? say(cause.title) : (one.cause ?? '');
  const value = test?.values.find((known) => known.value === one.value);
  const said: Record<CaseFinding['kind'], string> = {
    seen:
      one.value === 'not_looked'
        ? `${test?.question ?? one.observation}: nobody looked`
        : test && value
          ? `${test.says} ${say(value.words)}`
          : `${one.observation}: ${one.value}`,
    taken_back: one.observation
      ? `Taken back: ${test?.question ?? one.observation}`
      : `Not mended after all: ${title}`,
    mended: `Mended: ${title}`,
    proved: `Proved: ${title}`,
    drove: one.value === 'cool' ? 'Driven: it stayed cool' : 'Driven: it got hot again',
    opened: 'Opened again',
    note: one.photo ? 'Photo' : 'Note',
  };
  return [said[one.kind], one.measured, one.note].filter(Boolean).join(' · ');
}
