import { memo } from 'react';
import { Box, Grid, HiddenText, Words } from '../../kit/primitives';
import { Sentence } from '../../kit/words/Sentence';
import { VerdictMark } from '../../kit/words/VerdictMark';
import type { Evaluation, FourthAnswer } from '../../model/api/types';

/** The four answers. */
export const Answers = memo(function Answers({
  evaluation,
  brief = false,
}: {
  readonly evaluation: Evaluation;
  /** One line each, where an editor needs the room. */
  readonly brief?: boolean;
}) {
  const { radiator, airflow, thermostat, cap } = evaluation.answers;
  return (
    <Grid
      as="section"
      aria-label="Four answers"
      gridTemplateColumns={{ base: 'repeat(2, minmax(0,1fr))', lg: 'repeat(4, minmax(0,1fr))' }}
      gap="4"
      rowGap="2"
      paddingInline={{ base: '3', lg: '6' }}
      paddingBlock="2"
      borderBottom="1px solid"
      borderColor="rule"
    >
      <One title="Radiator" answer={radiator} brief={brief} />
      <One title="Airflow" answer={airflow} brief={brief} />
      <One title="Thermostat" answer={thermostat} brief={brief} />
      <One title="Cap" answer={cap} brief={brief} />
    </Grid>
  );
});

function One({
  title,
  answer,
  brief,
}: {
  readonly title: string;
  readonly answer: FourthAnswer;
  readonly brief: boolean;
}) {
  if (brief)
    return (
      <Box display="flex" alignItems="baseline" gap="2" overflow="hidden">
        <Box as="span" alignSelf="center" display="inline-flex">
          <VerdictMark verdict={answer.verdict} bare />
        </Box>
        <Words size="small" tone="quiet" display={{ base: 'none', md: 'inline' }}>
          {title}
        </Words>
        <HiddenText display={{ md: 'none' }}>{title}</HiddenText>
        <Words textStyle={{ base: 'small', md: 'body' }} fontWeight="strong" whiteSpace="nowrap">
          <Sentence text={answer.headline} />
        </Words>
      </Box>
    );
  return (
    <Box minHeight="78px">
      <Words size="small" tone="quiet" display="block">
        {title}
      </Words>
      <Words size="strong" display="block" fontSize="1.0625rem" whiteSpace="nowrap">
        <Sentence text={answer.headline} />
      </Words>
      <Words size="small" display="flex" gap="2" alignItems="flex-start">
        <Box as="span" paddingTop="1px">
          <VerdictMark verdict={answer.verdict} bare />
        </Box>
        <Words size="small" tone={answer.verdict} fontWeight="firm">
          <Sentence text={answer.sentence} />
        </Words>
      </Words>
    </Box>
  );
}
