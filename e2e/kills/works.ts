import { createHash } from 'node:crypto';
import { existsSync, readFileSync } from 'node:fs';
import { join } from 'node:path';
import { setTimeout as sleep } from 'node:timers/promises';
import Database from 'better-sqlite3';
import type { Product } from '../product';
import type { State } from '../states';
import { CASINO, CLUB, SEEDS, SHOP, TONGUES } from '../stories';

/** Long work that is killed and taken up again, and what is left of it in the end. */
export interface Work {
  name: string;
  /** The data folder it begins with. */
  state: State;
  /** How often it is killed in one run. */
  kills: number;
  /** Sets the stage; nothing is killed yet. */
  before?(product: Product): Promise<unknown>;
  /** Begins it. What a kill takes from under a request is asked for again, as a person would. */
  begin(product: Product): Promise<unknown>;
  isOver(product: Product): Promise<boolean>;
  /** What it left, to be held against an undisturbed run. */
  outcome(product: Product): Promise<Record<string, unknown>>;
}

const LIST_ROWS = 200_000;
const ENDED = new Set(['done', 'failed', 'cancelled']);
const KEY = 'vale-demo-key';
const VENUE = 'Saltmarch Exchange';
const ORDERS = 6;

const rowsOf = ({ folder }: Product, sql: string, ...values: unknown[]): unknown[][] => {
  const db = new Database(join(folder, 'jam-ladle.sqlite'), { readonly: true });
  try {
    return db
      .prepare(sql)
      .raw()
      .all(...values) as unknown[][];
  } finally {
    db.close();
  }
};

/** Many rows as their number and one sum, so that a difference is told and nothing large is kept. */
const digest = (rows: unknown[][]) => {
  const sum = createHash('sha256');
  for (const row of rows) sum.update(`${JSON.stringify(row)}\n`);
  return { rows: rows.length, sum: sum.digest('hex').slice(0, 16) };
};

/** All jobs have ended, and none failed. */
export async function jobsAreOver(product: Product): Promise<boolean> {
  const { jobs } = (await product.call('/jobs')) as { jobs: { kind: string; state: string; error: string | null }[] };
  const failed = jobs.find(({ state }) => state === 'failed');
  if (failed) throw new Error(`${failed.kind} failed: ${failed.error}`);
  return jobs.every(({ state }) => ENDED.has(state));
}

const linesOf = (product: Product, file: string) =>
  readFileSync(join(product.folder, 'world', file), 'utf8')
    .split('\r\n')
    .slice(1);
const newest = (product: Product, kind: string) =>
  Number(rowsOf(product, 'SELECT max(id) FROM sources WHERE kind = ?', kind)[0][0]);

/** A table of coined names, each with what a list may say of it. */
function largeList(): string {
  const parts = ['tarn', 'ossen', 'pell', 'umber', 'lath', 'quill', 'dun', 'merrow'];
  const more = ['hives', 'comb', 'gate', 'ley', 'ergill', 'moor', 'scarrow', 'vale'];
  const lines = ['Domain,Drop date,Price,Currency,Bids'];
  for (let n = 0; n < LIST_ROWS; n++) {
    const name = `${parts[n % 8]}${more[Math.floor(n / 8) % 8]}${n}`;
    // some are no names, some come twice
    const domain = n % 997 === 0 ? `${name}..org` : n % 101 === 0 ? 'tarnhives8.org' : `${name}.org`;
    lines.push(`${domain},2026-12-${String(1 + (n % 28)).padStart(2, '0')},${n % 300},EUR,${n % 7}`);
  }
  return lines.join('\n');
}

const countsOf = (product: Product, source: number) =>
  rowsOf(
    product,
    'SELECT rows_read, rows_taken, rows_repeated, rows_excluded, rows_set_aside FROM sources WHERE id = ?',
    source,
  )[0];

const list: Work = {
  name: 'an import of a list',
  state: 'fresh',
  kills: 4,
  begin: (product) => product.send('/sources/lists?name=Large', largeList()),
  isOver: jobsAreOver,
  outcome: async (product) => {
    const source = newest(product, 'list');
    return {
      counts: countsOf(product, source),
      names: digest(
        rowsOf(
          product,
          `SELECT d.name, d.drop_at, d.price_minor, d.bids, s.line FROM sightings s JOIN domains d ON d.id = s.domain_id
           WHERE s.source_id = ? ORDER BY d.name`,
          source,
        ),
      ),
      pool: rowsOf(product, 'SELECT count(*), sum(in_pool) FROM domains')[0],
      rejects: digest(rowsOf(product, 'SELECT line, reason FROM rejects WHERE source_id = ? ORDER BY line', source)),
    };
  },
};

const links: Work = {
  name: 'an import of links, and the walk over them',
  state: 'fresh',
  kills: 4,
  begin: (product) => product.upload('/sources/links?name=Vale+links', 'link-index.csv.gz'),
  isOver: jobsAreOver,
  outcome: async (product) => ({
    counts: countsOf(product, newest(product, 'links')),
    links: digest(
      rowsOf(
        product,
        `SELECT f.name, t.name, l.from_url, l.to_url, l.anchor, l.nofollow FROM links l JOIN domains f ON f.id = l.from_id
         JOIN domains t ON t.id = l.to_id ORDER BY 1, 2, 3, 4, 5, 6`,
      ),
    ),
    figures: digest(
      rowsOf(
        product,
        'SELECT name, referring_domains, backlinks FROM domains WHERE referring_domains IS NOT NULL ORDER BY name',
      ),
    ),
    // a walk ends within a bound of the true figure, not on it
    strengths: digest(
      rowsOf(product, 'SELECT name, round(strength) FROM domains WHERE strength > 5 ORDER BY strength DESC LIMIT 50')
        .map(([name]) => [name])
        .sort(),
    ),
  }),
};

const crawl: Work = {
  name: 'a crawl',
  state: 'fresh',
  kills: 5,
  begin: (product) =>
    product.post('/sources/crawls', { name: 'Vale', seeds: SEEDS, depth: 3, pageBudget: 5000, checkAfter: false }),
  isOver: jobsAreOver,
  outcome: async (product) => {
    const source = newest(product, 'crawl');
    return {
      counts: countsOf(product, source),
      pages: digest(
        rowsOf(
          product,
          'SELECT url, depth, hops, state, status, title, note, links_out FROM pages WHERE source_id = ? ORDER BY url',
          source,
        ),
      ),
      links: digest(
        rowsOf(
          product,
          'SELECT from_url, to_url, anchor, nofollow, indexable FROM links WHERE source_id = ? ORDER BY 1, 2, 3',
          source,
        ),
      ),
    };
  },
};

const BATCH = 250;

const check: Work = {
  name: 'a check of names',
  state: 'listed',
  kills: 4,
  begin: async (product) => {
    const names = linesOf(product, 'drop-list.csv')
      .map((line) => line.split(',')[0])
      .filter((name) => name.endsWith('.org') || name.endsWith('.net'))
      .slice(0, BATCH);
    return product.post('/batches', { text: names.join(' '), freshMinutes: 0 });
  },
  isOver: jobsAreOver,
  outcome: async (product) => {
    const { batches } = (await product.call('/batches')) as { batches: { id: number }[] };
    const { cells } = (await product.call(`/batches/${batches[0].id}`)) as {
      cells: { waits: string | null; count: number }[];
    };
    return {
      names: cells.reduce((sum, { count }) => sum + count, 0),
      waiting: cells.filter(({ waits }) => waits !== null).length,
      // what lapses meanwhile is another phase by right: whether each has a verdict, and by how many kinds of servers it was asked at least
      verdicts: digest(
        rowsOf(
          product,
          `SELECT d.name, d.phase = 'unknown', max(c.step = 'dns'), max(c.step IN ('rdap', 'whois'))
           FROM domains d JOIN checks c ON c.domain_id = d.id WHERE d.phase_at IS NOT NULL GROUP BY d.id ORDER BY d.name`,
        ),
      ),
      open: rowsOf(product, 'SELECT count(*) FROM questions WHERE held <> 2')[0],
    };
  },
};

const STORIES = [CASINO, CLUB, TONGUES, SHOP];

const measures: Work = {
  name: 'measures in depth',
  state: 'listed',
  kills: 3,
  before: async (product) => {
    await product.send('/sources/lists?name=Names+with+a+tale', STORIES.join('\n'));
    await product.allDone();
  },
  begin: (product) => product.post('/measures', { names: STORIES }),
  isOver: jobsAreOver,
  outcome: async (product) => ({
    domains: rowsOf(
      product,
      `SELECT name, captures, spam_risk, referring_domains FROM domains WHERE name IN (${STORIES.map(() => '?').join()}) ORDER BY name`,
      ...STORIES,
    ),
    captures: digest(
      rowsOf(
        product,
        `SELECT d.name, c.at, c.kind, c.title FROM captures c JOIN domains d ON d.id = c.domain_id ORDER BY 1, 2`,
      ),
    ),
  }),
};

const accountsAt = (path: string) => [
  { venue: VENUE, address: `http://saltmarchexchange.com/${path}`, key: KEY, currency: 'EUR' },
];
interface OrderSeen {
  name: string;
  state: string;
}
const ordersOf = async (product: Product) => {
  const { open, ended } = (await product.call('/orders')) as { open: OrderSeen[]; ended: OrderSeen[] };
  return [...open, ...ended];
};
/** What the venue has written down, the domain of each line. */
const journal = ({ folder }: Product): string[] => {
  const path = join(folder, 'world-orders.jsonl');
  const text = existsSync(path) ? readFileSync(path, 'utf8') : '';
  return text
    .split('\n')
    .filter(Boolean)
    .map((line) => (JSON.parse(line) as { domain: string }).domain);
};

const MOST_TRIES = 400;
const isTaken = (product: Product, order: object) =>
  product.post('/orders', order).then(
    () => true,
    () => false,
  );

const orders: Work = {
  name: 'orders',
  state: 'listed',
  kills: 4,
  before: async (product) => {
    const patch = (data: object) =>
      product.call('/settings', {
        method: 'PATCH',
        headers: { 'content-type': 'application/json' },
        body: JSON.stringify(data),
      });
    // a desk that has done what it was asked long before it says so
    await patch({ accounts: accountsAt('slow-desk'), isDryRun: false, dayLimitMinor: null });
    await product.post('/briefs', { name: 'Bids', purpose: 'rebuild', subjectWords: ['bee'], budgetMinor: 900_000 });
    await product.post('/sources/feeds', {
      url: 'http://saltmarchexchange.com/listings.json',
      name: VENUE,
      everyMinutes: 600,
    });
    await product.allDone();
  },
  begin: async (product) => {
    const { briefs } = (await product.call('/briefs')) as { briefs: { id: number; name: string }[] };
    const briefId = briefs.find(({ name }) => name === 'Bids')?.id;
    const { rows } = (await product.post('/pool/query', {
      parts: [
        { type: 'choice', fact: 'listing', values: ['expired-auction'] },
        { type: 'choice', fact: 'venue', values: [VENUE] },
        { type: 'range', fact: 'closing', min: 24, max: 160 },
        { type: 'range', fact: 'price', min: null, max: 60 },
      ],
      sorts: [{ fact: 'name', descending: false }],
      limit: 60,
    })) as { rows: { name: string; bids: number | null }[] };
    const wanted = rows.filter(({ bids }) => (bids ?? 0) < 2).slice(0, ORDERS);
    // one after another, each pressed until it is taken, with the key that the press had; what is killed meanwhile is not waited for here
    void (async () => {
      for (const { name } of wanted) {
        const order = { name, briefId, venue: VENUE, kind: 'bid', amountMinor: 90_000, clientKey: crypto.randomUUID() };
        for (let tries = 0; tries < MOST_TRIES && !(await isTaken(product, order)); tries++) await sleep(300);
      }
    })();
  },
  isOver: async (product) => {
    const seen = await ordersOf(product);
    return seen.length === ORDERS && seen.every(({ state }) => state !== 'queued' && state !== 'sent');
  },
  outcome: async (product) => {
    const at = journal(product);
    return {
      states: (await ordersOf(product)).map(({ state }) => (state === 'outbid' ? 'leading' : state)).sort(),
      // one line for each at the venue, whatever was lost on the way
      lines: at.length,
      domains: new Set(at).size,
      held: rowsOf(product, "SELECT sum(amount_minor) FROM ledger WHERE account = 'held'")[0],
      unbalanced: rowsOf(
        product,
        'SELECT count(*) FROM (SELECT posting FROM ledger GROUP BY posting HAVING sum(amount_minor) <> 0)',
      )[0],
    };
  },
};

const ideas: Work = {
  name: 'ideas',
  state: 'listed',
  kills: 2,
  begin: async (product) => {
    const { briefs } = (await product.call('/briefs')) as { briefs: { id: number }[] };
    const words = (stem: string) =>
      Array.from({ length: 160 }, (_, n) => `${stem}${String.fromCharCode(97 + (n % 26))}${n}`);
    return product.post('/ideas', {
      briefId: briefs[0].id,
      pattern: {
        slots: [
          { title: 'first', words: words('hive') },
          { title: 'second', words: words('comb') },
        ],
        endings: ['org'],
        mostLetters: 24,
      },
    });
  },
  isOver: jobsAreOver,
  outcome: async (product) => ({
    ideas: digest(rowsOf(product, 'SELECT rank, label, round(score, 3) FROM ideas ORDER BY run_id, rank')),
    runs: rowsOf(product, 'SELECT count(*) FROM idea_runs WHERE done_at IS NOT NULL')[0],
  }),
};

const backupsOf = async (product: Product) =>
  ((await product.call('/backups')) as { backups: { path: string }[] }).backups.map(({ path }) => path);

const copy: Work = {
  name: 'a copy of the data folder',
  state: 'listed',
  kills: 2,
  begin: (product) => product.post('/backups', {}),
  isOver: jobsAreOver,
  outcome: async (product) => {
    const copies = await backupsOf(product);
    const whole = copies.map((path) => {
      const db = new Database(join(path, 'jam-ladle.sqlite'), { readonly: true });
      try {
        return [db.pragma('quick_check', { simple: true }), db.prepare('SELECT count(*) FROM links').pluck().get()];
      } finally {
        db.close();
      }
    });
    return { isThere: copies.length > 0, whole: [...new Set(whole.map((one) => JSON.stringify(one)))] };
  },
};

/** It may be there or not: a kill may come before anything was put back. */
const AFTER = 'After the copy';
/** Asked for and not answered yet. */
let isPuttingBack = false;

const restore: Work = {
  name: 'a copy that is put back',
  state: 'listed',
  kills: 1,
  before: async (product) => {
    await product.post('/backups', {});
    await product.allDone();
    await product.post('/briefs', { name: AFTER, purpose: 'resell', subjectWords: [], budgetMinor: null });
  },
  begin: async (product) => {
    isPuttingBack = true;
    void product
      .post('/backups/newest/restore', {})
      .catch(() => null)
      .finally(() => {
        isPuttingBack = false;
      });
  },
  isOver: async (product) => !isPuttingBack && ((await product.call('/health')) as { healthy: boolean }).healthy,
  // either all of what was there before or all of the copy, never a part of each
  outcome: async (product) => {
    const names = rowsOf(product, 'SELECT name FROM briefs').flat();
    const { size } = (await product.post('/pool/query', { limit: 0 })) as { size: number };
    return {
      whole: rowsOf(product, 'PRAGMA integrity_check')[0],
      briefs: names.filter((name) => name !== AFTER).sort(),
      links: rowsOf(product, 'SELECT count(*) FROM links')[0],
      pool: size,
    };
  },
};

export const WORKS: readonly Work[] = [list, links, crawl, check, measures, orders, ideas, copy, restore];
