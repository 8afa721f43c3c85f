import { memo } from 'react';
import { Fold } from '../../kit/page/Fold';
import { Box, Button, Paragraph, Row, Svg, Title, Words } from '../../kit/primitives';
import { Circle, Line, Rect } from '../../kit/shapes';
import { Sentence } from '../../kit/words/Sentence';
import type { CauseChance, Diagnosis, Speaks } from '../../model/api/types';
import type { NewFinding } from '../../model/cases/kept';
import type { Standing } from '../../model/cases/standing';
import { counted } from '../../model/words/counted';

const LISTED = 6;

/** What it may be: each cause with its chance as so many of ten such cars, and what speaks for and against it. */
export function Causes({
  found,
  standing,
  naming = false,
  onAdd,
}: {
  readonly found: Diagnosis;
  readonly standing: Standing;
  /** In practice a cause is named, and nothing is mended. */
  readonly naming?: boolean;
  readonly onAdd: (finding: NewFinding) => void;
}) {
  const likely = found.causes.slice(0, LISTED);
  const rest = found.causes.slice(LISTED);
  const elsewhere = Math.max(0, 1 - found.causes.reduce((sum, cause) => sum + cause.explains, 0));
  const together = rest.reduce((sum, cause) => sum + cause.explains, 0);
  return (
    <Box as="section" aria-label="What it may be">
      <Row justifyContent="space-between" alignItems="baseline">
        <Title>What it may be</Title>
        <Words size="small" tone="quiet" display={{ base: 'none', md: 'inline' }}>
          against ◂ ▸ for
        </Words>
      </Row>
      <Paragraph size="small" tone="quiet">
        Of ten such cars
        {found.spoken_by.state === 'model'
          ? ', as this one is built and was driven in the model'
          : ''}
      </Paragraph>
      <ol>
        {likely.map((cause) => (
          <CauseLine
            key={cause.cause}
            cause={cause}
            mended={standing.mended.includes(cause.cause)}
            naming={naming}
            onAdd={onAdd}
          />
        ))}
      </ol>
      {rest.length > 0 && (
        <Fold
          borderBottom="1px solid"
          borderColor="rule"
          bar={{ paddingBlock: '3' }}
          title={
            <Words size="small" tone="quiet">
              {counted(rest.length, 'other explains', 'others explain')}{' '}
              {`it ${tenths(together)}; something else altogether ${tenths(elsewhere)}`}
            </Words>
          }
        >
          <ol>
            {rest.map((cause) => (
              <CauseLine
                key={cause.cause}
                cause={cause}
                mended={standing.mended.includes(cause.cause)}
                naming={naming}
                onAdd={onAdd}
              />
            ))}
          </ol>
        </Fold>
      )}
      {found.ruled_out.length > 0 && (
        <Fold
          bar={{ paddingBlock: '3' }}
          title={
            <Words size="small" tone="quiet">
              {found.ruled_out.length} ruled out
            </Words>
          }
        >
          <ul>
            {found.ruled_out.map((ruled) => (
              <Box as="li" key={ruled.cause} paddingBlock="1">
                <Words size="small">
                  <Sentence text={ruled.title} />:{' '}
                  <Words as="span" size="small" tone="quiet">
                    <Sentence text={ruled.by} />
                  </Words>
                </Words>
              </Box>
            ))}
          </ul>
        </Fold>
      )}
      <Box background="sunken" padding="3" marginTop="3" aria-live="polite">
        <Paragraph size="small">
          <Sentence text={found.lead} />
        </Paragraph>
        {found.pivot && (
          <Paragraph size="small" marginTop="2">
            <Sentence text={found.pivot.text} />
          </Paragraph>
        )}
        {found.clashes.map((clash) => (
          <Paragraph key={clash.observations.join()} size="small" tone="tight" marginTop="2">
            <Sentence text={clash.text} />
          </Paragraph>
        ))}
        <Paragraph size="small" tone="quiet" marginTop="2">
          {found.spoken_by.text}
        </Paragraph>
      </Box>
    </Box>
  );
}

const WORDS = ['', 'one', 'two', 'three', 'four', 'five', 'six', 'seven', 'eight', 'nine'];

/** A chance as so many of ten, as the server says it: never more than it is. */
export function tenths(chance: number): string {
  if (chance >= 0.95) return 'as good as certain';
  if (chance < 0.01) return 'hardly';
  if (chance < 0.1) return 'less than one of ten';
  return `${WORDS[Math.floor(chance * 10 + 1e-9)]} of ten`;
}

interface OneCause {
  readonly cause: CauseChance;
  readonly mended: boolean;
  readonly naming: boolean;
  readonly onAdd: (finding: NewFinding) => void;
}

/** There are some fifty: each is drawn anew when something of it has changed. */
const CauseLine = memo(function CauseLine(line: OneCause) {
  const { cause, mended, naming } = line;
  return (
    <Box as="li" borderBottom="1px solid" borderColor="rule">
      <Fold
        bar={{
          display: 'grid',
          gridTemplateColumns: 'minmax(0,1fr) auto',
          columnGap: '3',
          listStyleType: 'none',
          'data-cause': cause.cause,
        }}
        title={
          <>
            <Words size={cause.chance >= 0.1 ? 'strong' : 'body'}>
              <Sentence text={cause.title} />
              {mended && (
                <Words as="span" size="small" tone="holds">
                  {' '}
                  {naming ? 'named' : 'mended'}
                </Words>
              )}
            </Words>
            <Words
              size={cause.chance >= 0.1 ? 'strong' : 'small'}
              textAlign="right"
              data-chance={cause.chance.toFixed(4)}
            >
              {cause.words.replace(' of ten', '')}
            </Words>
            <ForAgainst cause={cause} />
            <Dots chance={cause.chance} />
          </>
        }
      >
        <Grounds {...line} />
      </Fold>
    </Box>
  );
});

/** What a cause stands on, what it is worth mending, and how that is proved. */
function Grounds({ cause, mended, naming, onAdd }: OneCause) {
  return (
    <Box paddingBottom="3">
      <Reasons title="For" reasons={cause.for} />
      <Reasons title="Against" reasons={cause.against} />
      {cause.for.length + cause.against.length === 0 && (
        <Paragraph size="small" tone="quiet">
          Nothing that was seen bears on it: it stands by how common it is.
        </Paragraph>
      )}
      <Paragraph size="small" marginTop="1">
        There: {tenths(cause.chance)}. What explains the complaint: {tenths(cause.explains)}.
      </Paragraph>
      {cause.model && (
        <Paragraph size="small" marginTop="1">
          <Sentence text={cause.model} />
        </Paragraph>
      )}
      <Paragraph size="small" marginTop="2">
        <Words size="small" fontWeight="strong">
          Mend:
        </Words>{' '}
        {cause.mend}.{' '}
        <Words size="small" fontWeight="strong">
          Proof:
        </Words>{' '}
        <Sentence text={cause.proof} />.
      </Paragraph>
      {cause.suggests.length > 0 && (
        <Paragraph size="small" marginTop="1">
          Look as well: {cause.suggests_why}.
        </Paragraph>
      )}
      {(naming || !mended) && (
        <Button
          look="bare"
          paddingInline="0"
          onClick={() => onAdd({ kind: 'mended', cause: cause.cause })}
        >
          {naming ? (mended ? 'not this after all' : 'name it') : 'it was this: mended'}
        </Button>
      )}
    </Box>
  );
}

const BY = {
  table: 'by the tables of the trade',
  model: 'by this build’s drives',
  build: 'by the workbench',
};

function Reasons({
  title,
  reasons,
}: {
  readonly title: string;
  readonly reasons: readonly Speaks[];
}) {
  if (reasons.length === 0) return null;
  return (
    <>
      <Words size="small" fontWeight="strong">
        {title}
      </Words>
      <ul>
        {reasons.map((reason) => (
          <Box as="li" key={reason.observation}>
            <Words size="small">
              <Sentence text={reason.said} />
              {reason.why ? `: ${reason.why}` : ''},{' '}
              <Words as="span" size="small" tone="quiet">
                {weight(reason.times)} {BY[reason.by]}
              </Words>
            </Words>
          </Box>
        ))}
      </ul>
    </>
  );
}

const weight = (times: number) => `×${times >= 9.5 ? Math.round(times) : times.toFixed(1)}`;

const HALF = 150;
const PER_BIT = 34;
const BAR = 10;

/** What speaks against to the left, what speaks for to the right, each answer a piece as long as it weighs. */
function ForAgainst({ cause }: { readonly cause: CauseChance }) {
  const pieces = (reasons: readonly Speaks[]) => {
    let at = 0;
    return reasons.map((reason) => {
      const wide = Math.min(Math.abs(reason.bits) * PER_BIT, HALF - at - 2);
      const piece = { name: reason.observation, at, wide: Math.max(wide, 0) };
      at += piece.wide + 3;
      return piece;
    });
  };
  return (
    <Svg
      viewBox={`0 0 ${2 * HALF} 16`}
      width="100%"
      maxWidth="300px"
      height="16px"
      aria-hidden="true"
      preserveAspectRatio="xMinYMid meet"
    >
      <Line x1={HALF} x2={HALF} y1="0" y2="16" stroke="ink" strokeWidth="1" />
      {pieces(cause.for).map((piece) => (
        <Rect
          key={piece.name}
          x={HALF + piece.at}
          y="3"
          width={piece.wide}
          height={BAR}
          fill="ink"
        />
      ))}
      {pieces(cause.against).map((piece) => (
        <Rect
          key={piece.name}
          x={HALF - piece.at - piece.wide}
          y="3.5"
          width={piece.wide}
          height={BAR - 1}
          fill="none"
          stroke="ink"
          strokeWidth="1"
        />
      ))}
    </Svg>
  );
}

function Dots({ chance }: { readonly chance: number }) {
  const full = Math.floor(chance * 10 + 1e-9);
  return (
    <Svg viewBox="0 0 110 12" width="110px" height="12px" aria-hidden="true" alignSelf="center">
      {WORDS.map((word, n) => (
        <Circle
          key={word}
          cx={6 + n * 10.8}
          cy="6"
          r="4"
          fill={n < full ? 'ink' : 'none'}
          stroke={n < full ? 'ink' : 'quiet'}
          strokeWidth="1"
        />
      ))}
    </Svg>
  );
}
