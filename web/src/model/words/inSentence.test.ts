import { expect, it } from 'vitest';
import { inSentence } from './inSentence';

it.each([
  ['Core width', 'core width'],
  ['Drop wide open at 100 L/min', 'drop wide open at 100 L/min'],
  ['A/C heat', 'A/C heat'],
  ['', ''],
])('%s amid a sentence is %s', (title, said) => expect(inSentence(title)).toBe(said));
