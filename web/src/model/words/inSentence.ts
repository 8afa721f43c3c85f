/** A title amid a sentence: its first letter small, but for one that stands for a word (A/C). */
export function inSentence(title: string): string {
  return /^[A-Z][a-z]/.test(title) ? `${title.charAt(0).toLowerCase()}${title.slice(1)}` : title;
}
