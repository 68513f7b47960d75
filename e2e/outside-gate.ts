// `npm run soak`: the gate of a search, judged on start pages of manuals that nobody here wrote. What a phrase that does not fit lets
// through is a fault; of those that fit, seven in ten have to get in.
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { decodeHtml } from '../src/core/crawl/decode';
import { foldText } from '../src/core/crawl/html';
import { readPage } from '../src/core/crawl/links';
import { gateOf } from '../src/core/crawl/search-gate';

const DOCS = '/usr/share/doc';
const FOREIGN = ['beekeeping', 'letterpress printing', 'bread recipes', 'horse riding', 'wedding dress', 'casino'];
/** Phrases that each page answers, chosen before it was looked at; and such as are alike in a word only. */
const MANUALS: { page: string; fits: string[]; alike?: string[] }[] = [
  { page: 'ntpsec-doc/html/index.html', fits: ['time synchronization', 'network time protocol', 'clock'] },
  { page: 'sqlite3/index.html', fits: ['sql database', 'embedded database', 'database engine'] },
  {
    page: 'git-doc/index.html',
    fits: ['version control', 'revision control'],
    alike: ['tree surgery', 'stupid jokes'],
  },
  { page: 'ant/manual/index.html', fits: ['apache ant'], alike: ['ants and insects', 'pest control'] },
  { page: 'libffi8/html/index.html', fits: ['foreign function interface'], alike: ['foreign travel'] },
  { page: 'libexpat1-dev/expat.html/index.html', fits: ['xml parser', 'parsing xml'] },
  { page: 'libxslt1-dev/html/index.html', fits: ['xslt', 'xml stylesheets'] },
  { page: 'valgrind/html/index.html', fits: ['memory checker', 'heap profiler'], alike: ['cave diving'] },
];

let pages = 0;
let fitting = 0;
let letIn = 0;
const wrong: string[] = [];
for (const { page, fits, alike = [] } of MANUALS) {
  const path = join(DOCS, page);
  if (!existsSync(path)) continue;
  pages++;
  const { title, visible } = readPage(decodeHtml(readFileSync(path), null).text, 'http://manual.example/');
  const seen = { title, text: foldText(visible) };
  const gate = (phrase: string) => gateOf(seen, seen, { phrase, briefWords: [] }).gate;
  fitting += fits.length;
  letIn += fits.filter((phrase) => gate(phrase) !== 'none').length;
  for (const phrase of [...FOREIGN, ...alike]) if (gate(phrase) !== 'none') wrong.push(`${phrase}: ${page}`);
}
console.log(
  `start pages ${pages}; of ${fitting} phrases that fit ${letIn} let them in; of those that do not, ${wrong.length}`,
);
if (pages < 3 || wrong.length > 0 || letIn < 0.7 * fitting) {
  console.error(wrong.join('\n'));
  process.exitCode = 1;
}
