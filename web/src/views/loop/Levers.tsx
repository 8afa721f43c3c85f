import { useState } from 'react';
import { Box, Button, Heading, Words } from '../../kit/primitives';
import { Mind } from '../../kit/words/Mind';
import { Quantity } from '../../kit/words/Quantity';
import { Sentence } from '../../kit/words/Sentence';
import type { CaseResult, Lever } from '../../model/api/types';
import { MOST_VARIANTS } from '../../model/document/edit';
import { useSession } from '../../model/save/context';
import { usePull } from './usePull';

const SHOWN = 6;

/** What one lever is worth in one case: kelvins that the air may be hotter. */
export function worth(lever: Lever, caseId: string): number | null {
  return lever.cases.find((entry) => entry.case_id === caseId)?.ambient_gain_k ?? null;
}

/** Whether a case that never settles does with a lever. */
const cures = (lever: Lever, caseId: string): boolean =>
  lever.cases.find((entry) => entry.case_id === caseId)?.cures ?? false;

/** Levers of a case, the best first; those whose worth cannot be said last, but for what makes it settle at all. */
export function ranked(levers: readonly Lever[], caseId: string): Lever[] {
  const value = (lever: Lever) =>
    worth(lever, caseId) ?? (cures(lever, caseId) ? 0.5 : Number.NEGATIVE_INFINITY);
  return [...levers].sort((a, b) => value(b) - value(a));
}

/** What would help in the shown case, what would not, and one press to try it. */
export function Levers({ shown }: { readonly shown: CaseResult }) {
  const further = useSession((s) => s.further);
  const build = useSession((s) => s.build);
  const asked = useSession((s) => s.asked);
  const variant = useSession((s) => s.build.variants[s.variant]?.id ?? '');
  const attempt = usePull();
  const [all, setAll] = useState(false);
  const [refused, setRefused] = useState<string | null>(null);
  const mine = further?.variant === variant ? further : null;
  const levers = ranked(mine?.levers ?? [], shown.id);
  const stale = mine?.build !== asked;
  const visible = all ? levers : levers.slice(0, SHOWN);
  const most = Math.max(1, ...visible.map((lever) => Math.abs(worth(lever, shown.id) ?? 0)));

  const pull = async (lever: Lever) => {
    setRefused(null);
    setRefused(await attempt(lever.name));
  };

  return (
    <Box as="section" aria-label="What would help" aria-busy={stale} minHeight="300px">
      <Heading>What would help</Heading>
      <Words size="small" tone="quiet" display="block" marginBottom="1">
        {levers.length > 0
          ? `How much hotter the air may be in ${shown.name}`
          : 'Solving each change…'}
      </Words>
      {visible.map((lever) => {
        const gain = worth(lever, shown.id);
        return (
          <Box
            key={lever.name}
            display="grid"
            gridTemplateColumns="minmax(0,1fr) auto auto"
            alignItems="center"
            columnGap="2"
          >
            <Box>
              <Words size="small" display="block" lineHeight="1.25">
                <Sentence text={lever.text ?? []} />
              </Words>
              <Box
                height="3px"
                marginTop="1"
                borderRadius="round"
                background={(gain ?? 0) < 0 ? 'fails' : 'accent'}
                style={{ width: `${(100 * Math.abs(gain ?? 0)) / most}%` }}
              />
            </Box>
            <Words
              size="small"
              fontWeight="strong"
              minWidth="48px"
              textAlign="right"
              tone={(gain ?? 0) < -0.5 ? 'fails' : 'ink'}
            >
              {(gain ?? 0) >= 0.5 && '+'}
              {gain !== null ? (
                <Quantity value={gain} kind="temperature_difference" />
              ) : cures(lever, shown.id) ? (
                'it settles'
              ) : (
                'unclear'
              )}
            </Words>
            <Button
              look="bare"
              disabled={stale || build.variants.length >= MOST_VARIANTS}
              onClick={() => pull(lever)}
            >
              try
            </Button>
            <Mind texts={lever.cautions} small />
          </Box>
        );
      })}
      {levers.length > SHOWN && (
        <Button look="bare" onClick={() => setAll(!all)}>
          {all ? 'fewer' : `all ${levers.length}, also those that do not help`}
        </Button>
      )}
      {refused && (
        <Words role="alert" size="small" tone="fails" display="block">
          {refused}
        </Words>
      )}
    </Box>
  );
}
