import { keepPreviousData, useQuery } from '@tanstack/react-query';
import { AwayError } from '../../model/api/transport';

/** An answer of the server to what stands in a form; the one before stays until the next is there. */
export function useAsked<Question, Answer>(
  name: string,
  question: Question | null,
  ask: (question: Question, signal: AbortSignal) => Promise<Answer>,
) {
  return useQuery({
    queryKey: ['fit', name, question],
    queryFn: ({ signal }) => ask(question as Question, signal),
    enabled: question !== null,
    placeholderData: keepPreviousData,
    // What was refused stays refused: it is said at once.
    retry: (before, error) => before < 1 && error instanceof AwayError,
    gcTime: 0,
  });
}
