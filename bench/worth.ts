import { nameFacts, registrableDomain } from '../src/core/names/domain';
import type { Splitter } from '../src/core/names/word-split';
import { subjectClassifier } from '../src/core/topics/classifier';
import { type Commonness, LEAST_SALES, ResaleIndex, type Sale } from '../src/core/worth/resale';
import { makeNameWords } from '../src/engine/pool/lexicons';
import { wordCounts } from '../src/engine/pool/splitter';
import { type MadeSale, madeUpSales } from '../standins/sales';
import { PLACES, SUBJECTS } from '../standins/words';
import { type Bench, round, sized } from './figure';

const SALES = sized('BENCH_SALES', 3000, 300);
const HELD_OUT = SALES / 5;
const SEEDS = [11, 12, 13];
/** Sales of somebody who has only begun to keep them, and names judged by each such handful. */
const FEW = [LEAST_SALES, 45, 60];
const FEW_JUDGED = 60;
const END = Date.UTC(2026, 10, 20);

/** Worth of names by those that were sold, judged on sales that were held out, against the middle price of their ending. Three seeds. */
export const worth: Bench = async (log) => {
  log(`three times ${SALES + HELD_OUT} made-up sales`);
  const given = [...PLACES, ...SUBJECTS.flatMap(({ names }) => names)].map((word) => word.toLowerCase());
  const splitter = makeNameWords([], given);
  const errors: number[] = [];
  const plain: number[] = [];
  let few = 0;
  let fewHeld = 0;
  let held = 0;
  let spent = 0;
  for (const seed of SEEDS) {
    const sales = [...madeUpSales(seed, SALES + HELD_OUT, END)].map((made) => saleOf(made, splitter));
    const [known, unseen] = [sales.slice(0, SALES), sales.slice(SALES)];
    const index = new ResaleIndex(known, commonnessOf());
    const started = performance.now();
    for (const sale of unseen) {
      const found = index.estimate(sale, sale.at);
      if (!found) throw new Error('too few sales');
      errors.push(Math.abs(Math.log(sale.priceMinor / found.medianMinor)));
      if (sale.priceMinor >= found.lowMinor && sale.priceMinor <= found.highMinor) held++;
    }
    spent += performance.now() - started;
    for (const size of FEW)
      for (let from = 0; from + size <= known.length; from += 300) {
        const handful = new ResaleIndex(known.slice(from, from + size), commonnessOf());
        for (const sale of unseen.slice(0, FEW_JUDGED)) {
          const found = handful.estimate(sale, sale.at);
          if (!found) throw new Error('too few sales');
          few++;
          if (sale.priceMinor >= found.lowMinor && sale.priceMinor <= found.highMinor) fewHeld++;
        }
      }
    const byEnding = new Map<string, number[]>();
    for (const { ending, priceMinor } of known) byEnding.set(ending, [...(byEnding.get(ending) ?? []), priceMinor]);
    const middles = new Map([...byEnding].map(([ending, prices]) => [ending, middle(prices)]));
    for (const { ending, priceMinor } of unseen)
      plain.push(Math.abs(Math.log(priceMinor / (middles.get(ending) ?? priceMinor))));
  }
  const percent = (error: number) => round(100 * (Math.exp(error) - 1));
  const share = held / errors.length;
  return [
    { name: 'worth', value: percent(middle(errors)), unit: `% off, the middle error on ${errors.length} sales held out`, baseline: percent(middle(plain)), ratio: round(middle(plain) / middle(errors), 2), goal: 'none; baseline: the middle price of the ending', met: true },
    { name: 'worth-range', value: round(100 * share), unit: '% of them within their ranges', baseline: null, ratio: null, goal: '60%, give or take 5', met: Math.abs(share - 0.6) <= 0.05 },
    { name: 'worth-range-few', value: round((100 * fewHeld) / few), unit: `% of ${few.toLocaleString('en')} within their ranges by ${FEW.join(', ')} sales each`, baseline: null, ratio: null, goal: '60%, give or take 5', met: Math.abs(fewHeld / few - 0.6) <= 0.05 },
    { name: 'worth-time', value: round(spent / errors.length, 2), unit: 'ms a name', baseline: null, ratio: null, goal: 'none', met: true },
  ]; // biome-ignore format: a figure a line
};

function saleOf({ name, price, at, venue }: MadeSale, splitter: Splitter): Sale {
  const domain = registrableDomain(name);
  if (!domain) throw new Error(`${name} is no domain`);
  const { words } = splitter.split(name.slice(0, name.length - domain.ending.length - 1));
  const { length, hyphens, digits } = nameFacts(domain);
  const subject = subjectClassifier().nameSubject(words);
  return { name, words, ending: domain.ending, length, hyphens, digits, subject, priceMinor: 100 * price, at, venue };
}

function commonnessOf(): Commonness {
  const counts = new Map(wordCounts().map(({ word, count }) => [word.toLowerCase(), Math.log1p(count)]));
  return (word) => counts.get(word) ?? 0;
}

function middle(values: number[]): number {
  return values.toSorted((a, b) => a - b)[Math.floor(values.length / 2)];
}
