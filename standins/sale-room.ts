import { closeSync, existsSync, fsyncSync, openSync, readFileSync, writeSync } from 'node:fs';
import { type Buyer, buyersFor, type SellerAnswer, type Talk, talkAt } from './buyers';
import type { Page } from './pages';
import { Random } from './random';

/** Part of the price that a venue keeps. */
export const SALE_FEE = 0.1;

/** What a seller sent, as it was written down; what became of it follows from this and the time. */
interface Sale {
  key: string;
  host: string;
  domain: string;
  askMinor: number;
  text: string;
  at: number;
  refused: string | null;
  withdrawnAt: number | null;
}
interface Answer extends SellerAnswer {
  key: string;
  sale: string;
  inquiry: string;
}

/** Where a customer's own names are sold, at each venue. */
export class SaleRoom {
  private readonly sales = new Map<string, Sale>();
  private readonly answers = new Map<string, Answer>();
  private readonly settled = new Set<string>();

  /**
   * @param path the journal; null: nothing is kept.
   * @param owns whether a name is the customer's to sell.
   * @param sold called once a name is sold.
   */
  constructor(
    private readonly path: string | null,
    private readonly owns: (domain: string) => boolean,
    private readonly sold: (domain: string, at: number) => void,
  ) {
    if (!path || !existsSync(path)) return;
    for (const line of readFileSync(path, 'utf8').split('\n')) {
      if (!line.endsWith('}')) continue;
      const entry = JSON.parse(line) as Sale | Answer;
      if ('sale' in entry) this.answers.set(entry.key, entry);
      else this.sales.set(entry.key, entry);
    }
  }

  /** @param path what comes after `sales/`. */
  answer(host: string, currency: string, method: string, path: string, body: string, now: number): Page {
    this.settle(now);
    const [, key, answerKey] = /^([A-Za-z0-9-]{8,64})(?:\/answers\/([A-Za-z0-9-]{8,64}))?$/.exec(path) ?? [];
    if (key === undefined) return json(404, { error: 'nothing here' });
    const known = this.sales.get(key);
    if (method === 'PUT' && answerKey === undefined) return this.put(host, currency, key, body, now);
    if (known?.host !== host) return json(404, { error: 'no such sale' });
    if (answerKey !== undefined) return this.hear(known, currency, answerKey, body, now);
    if (method === 'DELETE') {
      if (this.standing(known, now).state !== 'listed') return json(409, { error: 'it is over' });
      this.keep({ ...known, withdrawnAt: now });
      return json(200, this.shown({ ...known, withdrawnAt: now }, currency, now));
    }
    return json(200, this.shown(known, currency, now));
  }

  /** What was sold changes hands when its time has come. */
  settle(now: number): void {
    for (const sale of this.sales.values()) {
      if (this.settled.has(sale.key)) continue;
      const { state, soldAt } = this.standing(sale, now);
      if (state !== 'listed') this.settled.add(sale.key);
      if (state === 'sold') this.sold(sale.domain, soldAt ?? now);
    }
  }

  private put(host: string, currency: string, key: string, body: string, now: number): Page {
    const sent = readJson(body);
    const { domain, askMinor, text } = sent;
    if (typeof domain !== 'string' || typeof text !== 'string') return json(400, { error: 'a domain and a text' });
    if (!Number.isSafeInteger(askMinor) || (askMinor as number) <= 0) return json(400, { error: 'no price' });
    if (sent.currency !== currency) return json(400, { error: `prices here are in ${currency}` });
    const known = this.sales.get(key);
    if (known)
      return known.host === host && known.domain === domain && known.askMinor === askMinor
        ? json(200, this.shown(known, currency, now))
        : json(409, { error: 'this key was used for another sale' });
    const isOffered = [...this.sales.values()].some(
      (sale) => sale.domain === domain && sale.host === host && this.standing(sale, now).state === 'listed',
    );
    const refused = isOffered
      ? 'it is offered here already'
      : this.owns(domain)
        ? null
        : 'its registration is not yours';
    const sale: Sale = { key, host, domain, askMinor: askMinor as number, text, at: now, refused, withdrawnAt: null };
    this.keep(sale);
    return json(200, this.shown(sale, currency, now));
  }

  private hear(sale: Sale, currency: string, key: string, body: string, now: number): Page {
    if (this.answers.has(key)) return json(200, this.shown(sale, currency, now));
    const { inquiry, act, amountMinor } = readJson(body);
    const talk = this.standing(sale, now).talks.find(({ buyer }) => buyer.id === inquiry)?.talk;
    if (!talk) return json(404, { error: 'no such inquiry' });
    if (talk.state !== 'open') return json(409, { error: `the buyer ${talk.words}` });
    if (act !== 'accept' && act !== 'counter' && act !== 'decline') return json(400, { error: 'no such answer' });
    if (act === 'accept' && talk.offerMinor === null) return json(409, { error: 'nothing was offered' });
    if (act === 'counter' && (!Number.isSafeInteger(amountMinor) || (amountMinor as number) <= 0))
      return json(400, { error: 'no amount' });
    const amount = act === 'counter' ? (amountMinor as number) : null;
    this.keep({ key, sale: sale.key, inquiry: inquiry as string, act, amountMinor: amount, at: now });
    return json(200, this.shown(sale, currency, now));
  }

  private keep(entry: Sale | Answer): void {
    if ('sale' in entry) this.answers.set(entry.key, entry);
    else this.sales.set(entry.key, entry);
    if (!this.path) return;
    const file = openSync(this.path, 'a');
    writeSync(file, `${JSON.stringify(entry)}\n`);
    fsyncSync(file);
    closeSync(file);
  }

  /** The first who agrees has it; who comes later, or was still talking, is gone. */
  private standing(sale: Sale, now: number) {
    const until = Math.min(now, sale.withdrawnAt ?? now);
    const buyers = buyersFor(`${sale.host} ${sale.domain}`, worthOf(sale.domain), sale.at);
    const answersTo = (id: string) =>
      [...this.answers.values()].filter((answer) => answer.sale === sale.key && answer.inquiry === id);
    const talks = buyers.flatMap((buyer) => {
      const talk = talkAt(buyer, sale.askMinor, answersTo(buyer.id), until);
      return talk ? [{ buyer, talk }] : [];
    });
    const winner = talks
      .filter(({ talk }) => talk.state === 'agreed')
      .sort((a, b) => a.talk.since - b.talk.since || a.buyer.id.localeCompare(b.buyer.id))[0];
    const soldAt = winner?.talk.since ?? null;
    return {
      state: sale.refused ? 'refused' : winner ? 'sold' : sale.withdrawnAt === null ? 'listed' : 'withdrawn',
      soldAt,
      finalMinor: winner?.talk.offerMinor ?? null,
      talks:
        soldAt === null
          ? talks
          : talks.filter(({ buyer }) => buyer.comesAt <= soldAt).map((one) => lateTo(one, winner)),
    };
  }

  private shown(sale: Sale, currency: string, now: number): object {
    const { key, domain, askMinor, refused } = sale;
    const { state, finalMinor, talks } = this.standing(sale, now);
    const feesMinor = finalMinor === null ? null : Math.round(finalMinor * SALE_FEE);
    const inquiries = talks.map(({ buyer, talk: { state: stands, words, offerMinor, askedMinor, until } }) => ({
      inquiry: buyer.id,
      buyer: buyer.name,
      at: new Date(buyer.comesAt).toISOString(),
      words,
      offerMinor,
      askedMinor,
      state: stands,
      until: until === null ? null : new Date(until).toISOString(),
    }));
    return { key, domain, askMinor, currency, state, finalMinor, feesMinor, reason: refused, inquiries };
  }
}

function lateTo(one: { buyer: Buyer; talk: Talk }, winner: { buyer: Buyer } | undefined) {
  if (one.buyer.id === winner?.buyer.id || one.talk.state === 'declined' || one.talk.state === 'gone') return one;
  return { ...one, talk: { ...one.talk, state: 'gone' as const, words: 'came too late', until: null } };
}

/** What a name is worth to those who want it. */
function worthOf(domain: string): number {
  return Math.round((60 + 20 * new Random(`sale ${domain}`).tail(60)) * 100);
}

function readJson(body: string): Record<string, unknown> {
  try {
    const value = JSON.parse(body);
    return typeof value === 'object' && value !== null ? value : {};
  } catch {
    return {};
  }
}

function json(status: number, value: object): Page {
  return { status, headers: { 'content-type': 'application/json' }, body: JSON.stringify(value) };
}
