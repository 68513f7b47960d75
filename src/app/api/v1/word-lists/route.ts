import { createHash } from 'node:crypto';
import { WordListSchema } from '../../../../contracts/pool';
import { keepWords } from '../../../../store/domains/marks';
import { getStore } from '../../../server';
import { handle, readJson } from '../../respond';

/** Keeps a list of words, each once. The same words always have the same number. */
export const POST = handle(async (request) => {
  const words = [...new Set((await readJson(request, WordListSchema)).words)].sort();
  const hash = createHash('sha256').update(words.join('\n')).digest('hex');
  return Response.json({ id: keepWords(await getStore(), words, hash), count: words.length }, { status: 201 });
});
