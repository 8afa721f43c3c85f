import { keepPreviousData, useQuery } from '@tanstack/react-query';

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
    retry: 1,
    gcTime: 0,
  });
}
