import { bidPlan } from './bid-plan';
import { crawl } from './crawl';
import { crawlFrontier } from './crawl-frontier';
import { crawlHosts } from './crawl-hosts';
import { crawlYield } from './crawl-yield';
import { dnsBatch } from './dns-batch';
import { dossier } from './dossier';
import { dropWindow } from './drop-window';
import { exports } from './exports';
import { type Bench, IS_SMALL } from './figure';
import { ideas } from './ideas';
import { linkExport } from './link-export';
import { listFormats } from './list-formats';
import { listImport } from './list-import';
import { load } from './load';
import { pageCheck } from './page-check';
import { past } from './past';
import { poolQuery } from './pool-query';
import { poolScreen } from './pool-screen';
import { referrers } from './referrers';
import { spam } from './spam';
import { strengthTrust } from './strength-trust';
import { subjects } from './subjects';
import { wordSplit } from './word-split';
import { worstInputs } from './worst-inputs';
import { worth } from './worth';
import { zonePair } from './zone-pair';

const BENCHES: Record<string, Bench> = {
  'pool-query': poolQuery,
  'pool-screen': poolScreen,
  'list-import': listImport,
  'list-formats': listFormats,
  exports,
  'link-export': linkExport,
  crawl,
  'crawl-yield': crawlYield,
  'crawl-hosts': crawlHosts,
  'crawl-frontier': crawlFrontier,
  'page-check': pageCheck,
  'strength-trust': strengthTrust,
  spam,
  subjects,
  past,
  referrers,
  'word-split': wordSplit,
  'zone-pair': zonePair,
  'dns-batch': dnsBatch,
  'drop-window': dropWindow,
  dossier,
  'bid-plan': bidPlan,
  worth,
  ideas,
  load,
  'worst-inputs': worstInputs,
};

/** `npm run bench`, or `npm run bench -- NAME --json` for one. Each step is told to who keeps the time. */
const args = process.argv.slice(2);
const isJson = args.includes('--json');
const named = args.filter((arg) => !arg.startsWith('--'));
const unknown = named.find((name) => !(name in BENCHES));
if (unknown) {
  process.stderr.write(`There is no benchmark "${unknown}". There are: ${Object.keys(BENCHES).join(', ')}\n`);
  process.exit(1);
}
for (const name of named.length > 0 ? named : Object.keys(BENCHES)) {
  const at = (step: string) => process.send?.({ name, step });
  at('');
  const figures = await BENCHES[name]((text) => {
    at(text);
    if (!isJson && !IS_SMALL) process.stderr.write(`  ${name}: ${text}\n`);
  });
  if (IS_SMALL) {
    process.stdout.write(`${name}: runs, ${figures.length} figures\n`);
    continue;
  }
  for (const figure of figures) {
    if (isJson) process.stdout.write(`${JSON.stringify(figure)}\n`);
    else {
      const against =
        figure.baseline === null ? '' : `; baseline ${figure.baseline.toLocaleString('en')}, ratio ${figure.ratio}`;
      process.stdout.write(
        `${figure.name}: ${figure.value.toLocaleString('en')} ${figure.unit}${against}; goal: ${figure.goal}${figure.goal.startsWith('none') ? '' : figure.met ? ', met' : ', missed'}\n`,
      );
    }
  }
}
process.disconnect?.();
