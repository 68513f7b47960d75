import { createHash } from 'node:crypto';
import { keepWords } from '../../../../store/domains/marks';
import { getStore } from '../../../server';
import { route } from '../../respond';

/** Keeps a list of words, each once. The same words always have the same number. */
export const POST = route('POST /word-lists', async ({ body }) => {
  const words = [...new Set(body.words)].sort();
  const hash = createHash('sha256').update(words.join('\n')).digest('hex');
  return { id: keepWords(await getStore(), words, hash), count: words.length };
});
