import { homeMinor } from '../../core/listings/rates';
import { nameFacts, registrableDomain } from '../../core/names/domain';
import type { Splitter } from '../../core/names/word-split';
import { subjectClassifier } from '../../core/topics/classifier';
import { ResaleIndex, type ResaleWorth, type Sale, type SoldName } from '../../core/worth/resale';
import type { Store } from '../../store/base/database';
import { readRates } from '../../store/base/settings';
import { readAllSales, salesKnown } from '../../store/offers/sales';
import { pricing } from '../../store/pool/pool-changes';
import { wordCounts } from '../pool/splitter';

/** Judges names by those that were sold; sales are read again when there are more, or when rates change. */
export class Valuer {
  private index: ResaleIndex | null = null;
  private stamp = '';
  private commonness: ((word: string) => number) | null = null;

  constructor(private readonly store: Store) {}

  /** @returns null for each name where too few sales are known, or that is no domain. In minor units of the user's currency. */
  resale(names: readonly string[], splitter: Splitter): (ResaleWorth | null)[] {
    const index = this.upToDate(splitter);
    const now = this.store.now();
    return names.map((name) => {
      const sold = soldName(name, splitter);
      return sold && index.estimate(sold, now);
    });
  }

  private upToDate(splitter: Splitter): ResaleIndex {
    const { count, to } = salesKnown(this.store);
    const stamp = `${count} ${to} ${pricing(this.store)}`;
    if (this.index && stamp === this.stamp) return this.index;
    const rates = readRates(this.store);
    const sales = readAllSales(this.store).flatMap(({ name, priceMinor, currency, at, venue }): Sale[] => {
      const sold = soldName(name, splitter);
      const price = homeMinor(priceMinor, currency, rates);
      return sold && price !== null && price > 0 ? [{ ...sold, priceMinor: price, at, venue }] : [];
    });
    this.index = new ResaleIndex(sales, this.commonOf());
    this.stamp = stamp;
    return this.index;
  }

  private commonOf(): (word: string) => number {
    if (!this.commonness) {
      const counts = new Map(wordCounts().map(({ word, count }) => [word.toLowerCase(), Math.log1p(count)]));
      this.commonness = (word) => counts.get(word) ?? 0;
    }
    return this.commonness;
  }
}

function soldName(name: string, splitter: Splitter): SoldName | null {
  const domain = registrableDomain(name);
  if (!domain) return null;
  const { words } = splitter.split(domain.name.slice(0, domain.name.length - domain.ending.length - 1));
  const { length, hyphens, digits } = nameFacts(domain);
  return {
    name: domain.name,
    words,
    ending: domain.ending,
    length,
    hyphens,
    digits,
    subject: subjectClassifier().nameSubject(words),
  };
}
