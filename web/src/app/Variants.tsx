import { memo, useState } from 'react';
import { usePhone } from '../kit/page/usePhone';
import { Box, Button, Input, Row, Select, Station, Words } from '../kit/primitives';
import { VerdictMark } from '../kit/words/VerdictMark';
import type { Evaluation } from '../model/api/types';
import { duplicated, MOST_VARIANTS, removed } from '../model/document/edit';
import { usePlaces } from '../model/places';
import { useSession } from '../model/save/context';
import { CopyAnswers } from './CopyAnswers';

/** The variants of the build: which one is shown, how each fares, and what can be done with it. */
export const Variants = memo(function Variants({
  evaluation,
  comparing,
}: {
  readonly evaluation: Evaluation;
  readonly comparing: boolean;
}) {
  const build = useSession((s) => s.build);
  const index = useSession((s) => s.variant);
  const further = useSession((s) => s.further);
  const places = usePlaces();
  const setBuild = useSession((s) => s.setBuild);
  const phone = usePhone();
  const [more, setMore] = useState(false);
  // The variant that is given a name: right after it was made the address still shows another.
  const [renaming, setRenaming] = useState<string | null>(null);
  const shown = build.variants[index];
  if (!shown) return null;
  const full = build.variants.length >= MOST_VARIANTS;

  function duplicate() {
    if (!shown) return;
    const next = duplicated(build, shown.id);
    const made = next.variants.at(-1)?.id ?? shown.id;
    setBuild(next);
    places.showVariant(made);
    setRenaming(made);
  }

  return (
    <Box
      as="section"
      aria-label="Variants"
      display="flex"
      flexWrap="wrap"
      alignItems="center"
      gap="2"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="1"
      borderBottom="1px solid"
      borderColor="rule"
    >
      {phone ? (
        <>
          <Box flex="1">
            <Select
              aria-label="Variant"
              value={shown.id}
              onChange={(event) => {
                setRenaming(null);
                places.showVariant(event.target.value);
              }}
            >
              {build.variants.map((entry) => {
                const answer = entry.id === shown.id ? evaluation : further?.others[entry.id];
                return (
                  <option key={entry.id} value={entry.id}>
                    {answer ? `${entry.name}: ${answer.verdict}` : entry.name}
                  </option>
                );
              })}
            </Select>
          </Box>
          <Button
            look="bare"
            aria-expanded={more}
            aria-label="What to do with the variant"
            minWidth="target"
            onClick={() => setMore(!more)}
          >
            ⋯
          </Button>
        </>
      ) : (
        build.variants.map((entry) => {
          const answer = entry.id === shown.id ? evaluation : further?.others[entry.id];
          return (
            <Station
              key={entry.id}
              aria-pressed={entry.id === shown.id}
              padding="0"
              paddingInline="3"
              borderWidth="1px"
              display="inline-flex"
              alignItems="center"
              gap="2"
              maxWidth="240px"
              onClick={() => {
                setRenaming(null);
                places.showVariant(entry.id);
              }}
            >
              <Box
                as="span"
                display="inline-flex"
                width="18px"
                height="18px"
                alignItems="center"
                justifyContent="center"
                borderRadius="round"
                background="raised"
              >
                {answer && <VerdictMark verdict={answer.verdict} bare />}
              </Box>
              <Words
                size="body"
                fontWeight="firm"
                overflow="hidden"
                textOverflow="ellipsis"
                whiteSpace="nowrap"
              >
                {entry.name}
              </Words>
            </Station>
          );
        })
      )}
      {renaming === shown.id ? (
        <Rename key={shown.id} id={shown.id} onDone={() => setRenaming(null)} />
      ) : phone && !more ? null : (
        <Row gap="0" flexWrap="wrap">
          <Button look="bare" disabled={full} onClick={duplicate}>
            Duplicate
          </Button>
          <Button look="bare" onClick={() => setRenaming(shown.id)}>
            Rename
          </Button>
          <Button
            look="bare"
            disabled={build.variants.length === 1}
            onClick={() => setBuild(removed(build, shown.id))}
          >
            Remove
          </Button>
          {build.variants.length > 1 && (
            <Button
              look="bare"
              aria-pressed={comparing}
              onClick={() => places.to(comparing ? '' : 'compare')}
            >
              {comparing ? 'Back to the loop' : 'Compare'}
            </Button>
          )}
          <CopyAnswers evaluation={evaluation} name={shown.name} />
        </Row>
      )}
    </Box>
  );
});

function Rename({ id, onDone }: { readonly id: string; readonly onDone: () => void }) {
  const index = useSession((s) => s.build.variants.findIndex((entry) => entry.id === id));
  const name = useSession((s) => s.build.variants[index]?.name ?? '');
  const setValue = useSession((s) => s.setValue);
  const [text, setText] = useState(name);
  return (
    <form
      onSubmit={(event) => {
        event.preventDefault();
        if (text.trim()) setValue(`/variants/${index}/name`, text.trim());
        onDone();
      }}
    >
      <Row gap="1">
        <Input
          autoFocus
          aria-label="Name of the variant"
          value={text}
          maxLength={120}
          width="220px"
          aria-invalid={text.trim() === '' || undefined}
          onFocus={(event) => event.target.select()}
          onChange={(event) => setText(event.target.value)}
          onKeyDown={(event) => {
            if (event.key !== 'Escape') return;
            event.stopPropagation();
            onDone();
          }}
        />
        <Button type="submit" look="main" disabled={text.trim() === ''}>
          Name it
        </Button>
      </Row>
    </form>
  );
}
