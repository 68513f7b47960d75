import { createInterface } from 'node:readline';
import { loadLanguages } from '../core/history/language';
import { judgeLine, KINDS } from '../core/judge/kinds';
import { nameWordsFor } from '../engine/pool/lexicons';
import { sheetsOf } from '../services/files/sheets';

/** Kinds that read texts: what languages are told by is large. */
const READING = new Set(['subject', 'past', 'spam']);

/** `npm run -s judge -- KIND`: the core's judgements on the command line, JSON Lines in and out (docs/judge.md). */
async function main(): Promise<void> {
  const [name = '', ...more] = process.argv.slice(2);
  const kind = Object.hasOwn(KINDS, name) ? KINDS[name] : null;
  if (kind === null || more.length > 0) {
    process.stderr.write(`usage: npm run -s judge -- KIND, where KIND is one of ${Object.keys(KINDS).join(', ')}\n`);
    process.exitCode = 2;
    return;
  }
  // whoever reads may have enough before the last line
  process.stdout.on('error', (error: NodeJS.ErrnoException) => process.exit(error.code === 'EPIPE' ? 0 : 1));
  const languageOf = READING.has(name) ? await loadLanguages() : () => null;
  let line = 0;
  for await (const text of createInterface({ input: process.stdin, crlfDelay: Number.POSITIVE_INFINITY })) {
    line++;
    if (text.trim() === '') continue;
    const tools = { nameWords: nameWordsFor, languageOf, sheetsOf };
    const answer = await Promise.resolve(judgeLine(kind, text, line, Date.now(), tools)).catch((error: Error) => ({
      error: error.message,
      line,
    }));
    if (!process.stdout.write(`${JSON.stringify(answer)}\n`))
      await new Promise((drained) => process.stdout.once('drain', drained));
  }
}

await main();
