/** How many there are of something, in words that agree with the number. */

const rules = new Intl.PluralRules('en');

/** The number and its word, "1 drive", "3 drives"; the word alone where the number is said otherwise. */
export const counted = (count: number, one: string, more: string): string =>
  `${count} ${agreeing(count, one, more)}`;

export const agreeing = (count: number, one: string, more: string): string =>
  rules.select(count) === 'one' ? one : more;
