/** The last answer of a kind, kept in this browser: a page that is loaded while the server is away shows it. */

const VERSION = 2;

export function lastAnswers<Answer>(kind: string) {
  const keyOf = (scope: string) => `ebbrin.${kind}.${scope}`;
  return {
    remember(scope: string, answer: Answer): void {
      try {
        localStorage.setItem(keyOf(scope), JSON.stringify({ version: VERSION, answer }));
      } catch {
        // A browser that keeps nothing shows it again once the server answers.
      }
    },
    remembered(scope: string): Answer | null {
      try {
        const kept = JSON.parse(localStorage.getItem(keyOf(scope)) ?? 'null');
        return kept?.version === VERSION ? kept.answer : null;
      } catch {
        return null;
      }
    },
  };
}
