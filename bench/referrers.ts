import { loadLanguages } from '../src/core/history/language';
import { judgeLine, KINDS } from '../src/core/judge/kinds';
import { nameWordsFor } from '../src/engine/pool/lexicons';
import { sheetsOf } from '../src/services/files/sheets';
import { caseReferrers } from './cases';
import { type Bench, round } from './figure';

/** Sets of referring domains by hand, counted by the judge command, against counting each domain. */
export const referrers: Bench = async (log) => {
  const tools = { nameWords: nameWordsFor, languageOf: await loadLanguages(), sheetsOf };
  const cases = caseReferrers();
  let right = 0;
  let plain = 0;
  for (const { sort, least, most, line } of cases) {
    const { effective } = judgeLine(KINDS.referrers, line, 1, 0, tools) as { effective: number };
    const each = (JSON.parse(line) as { referrers: object[] }).referrers.length;
    if (effective >= least && effective <= most) right++;
    else log(`wrong: ${sort}: ${effective}, not ${least} to ${most}`);
    if (each >= least && each <= most) plain++;
  }
  const share = (count: number) => round((100 * count) / cases.length);
  return [
    {
      name: 'referrers-by-hand',
      value: share(right),
      unit: `% of ${cases.length} sets by hand counted right`,
      baseline: share(plain),
      ratio: round(share(right) / share(plain), 2),
      goal: 'at least 90%',
      met: share(right) >= 90,
    },
  ];
};
