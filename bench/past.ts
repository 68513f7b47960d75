import { loadLanguages } from '../src/core/history/language';
import { judgeLine, KINDS } from '../src/core/judge/kinds';
import { nameWordsFor } from '../src/engine/pool/lexicons';
import { sheetsOf } from '../src/services/files/sheets';
import { type CasePast, casePasts } from './cases';
import { type Bench, round } from './figure';

/** A year more or less is no fault: a person read years off the captures. */
const YEARS_APART = 1;
const CONTENT_APART = 2;
const HIGH = 0.5;

interface Told {
  eras: { kind: string; from: string; to: string; subject: string | null; language: string | null }[];
  drops: { from: string; to: string }[];
  topicChange: number | null;
  contentYears: number;
}

/** What of a past is wrong, by what a person says of it. */
export function faultsOf(said: CasePast, told: Told): string[] {
  const faults: string[] = [];
  const year = (time: string) => new Date(time).getUTCFullYear();
  const isNear = (a: number, b: number) => Math.abs(a - b) <= YEARS_APART;
  const isEra = (era: CasePast['eras'][number], of: Told['eras'][number] | undefined) =>
    of !== undefined && era.kind === of.kind && isNear(era.from, year(of.from)) && isNear(era.to, year(of.to));
  if (said.eras.length !== told.eras.length || !said.eras.every((era, n) => isEra(era, told.eras[n])))
    faults.push(`eras ${told.eras.map(({ kind, from, to }) => `${kind} ${year(from)}..${year(to)}`).join(', ')}`);
  const isDrop = ({ from, to }: CasePast['drops'][number], of: Told['drops'][number] | undefined) =>
    of !== undefined && year(of.from) <= to && year(of.to) >= from;
  if (said.drops.length !== told.drops.length || !said.drops.every((drop, n) => isDrop(drop, told.drops[n])))
    faults.push(`drops ${told.drops.map(({ from, to }) => `${year(from)}..${year(to)}`).join(', ') || 'none'}`);
  if (said.topic !== null && (told.topicChange ?? 0) >= HIGH !== (said.topic === 'high'))
    faults.push(`topic change ${told.topicChange}`);
  if (said.years !== null && Math.abs(said.years - told.contentYears) > CONTENT_APART)
    faults.push(`${told.contentYears} years of content`);
  return faults;
}

/** Pasts by hand, told by the judge command: eras, drops, change of topic and years of content all right. */
export const past: Bench = async () => {
  const tools = { nameWords: nameWordsFor, languageOf: await loadLanguages(), sheetsOf };
  const cases = casePasts();
  let right = 0;
  let subjects = 0;
  let told = 0;
  for (const said of cases) {
    const { domain, registeredAt, captures } = said;
    const line = JSON.stringify({ domain, registeredAt, captures });
    const answer = judgeLine(KINDS.past, line, 1, 0, tools) as Told;
    const faults = faultsOf(said, answer);
    if (faults.length === 0) right++;
    else if (process.env.SHOW_FAULTS) process.stderr.write(`${said.sort}: ${faults.join('; ')}\n`);
    for (const [n, era] of said.eras.entries()) {
      if (era.subject === null) continue;
      told++;
      if (answer.eras[n]?.subject === era.subject) subjects++;
    }
  }
  const share = round(right / cases.length, 3);
  return [
    { name: 'past', value: share, unit: `of ${cases.length} pasts by hand told right in eras, drops, change of topic and years`, baseline: null, ratio: null, goal: 'at least 0.9', met: share >= 0.9 },
    { name: 'past-subjects', value: round(subjects / Math.max(1, told), 3), unit: `of ${told} eras of content with the right subject`, baseline: null, ratio: null, goal: 'none', met: true },
  ]; // biome-ignore format: a figure a line
};
