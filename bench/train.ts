import { writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { distilLexicons } from './lexicon/distil';
import { distilSubjects } from './topics/distil';
import { tuneSubjects } from './topics/tune';
import { trainSpam } from './training';

/**
 * `npm run train [-- words|subjects|spam]`: makes the tables of words from packages of words, the data that subjects are told by and the points of the spam rules, from made-up worlds of
 * fixed seeds, and writes them to where the product reads them. Points are fitted with subjects as they are told then, so subjects come first.
 */
const ROOT = process.cwd();
const wanted = process.argv.slice(2);
const log = (line: string) => process.stdout.write(`${line}\n`);
const save = (path: string, value: unknown) => {
  writeFileSync(join(ROOT, path), `${JSON.stringify(value, null, 2)}\n`);
  process.stdout.write(`${path} is written\n`);
};
if (wanted.length === 0 || wanted.includes('words')) distilLexicons(log);
if (wanted.length === 0 || wanted.includes('subjects')) {
  distilSubjects(log);
  tuneSubjects(log);
}
if (wanted.length === 0 || wanted.includes('spam')) save('src/core/spam/points.json', await trainSpam());
