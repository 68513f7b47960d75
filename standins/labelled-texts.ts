import { Random } from './random';
import { THEMES, type Theme, themeText } from './themes';

/** A page whose subject is known because it was made that way. */
export interface MadeText {
  subject: string;
  text: string;
}

/** Pages of every theme, of 100 to 450 words, from tidy ones to such that stray into other subjects half the time. */
export function* labelledTexts(seed: number, perTheme: number): Generator<MadeText> {
  for (const theme of THEMES)
    for (let i = 0; i < perTheme; i++) yield { subject: theme.subject, text: pageText(theme, seed, i) };
}

function pageText(theme: Theme, seed: number, number: number): string {
  const random = new Random(`${seed} ${theme.subject} ${number}`);
  const words = 100 + Math.floor(random.next() ** 2 * 350);
  return themeText(theme, random, words, 0.05 + random.next() * 0.5);
}
