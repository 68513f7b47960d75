import type { Knex } from 'knex';

/** Acting: orders with their log and ledger, what is owned; and what a brief says of countries, its time, its limits and its margin. */
export async function up(knex: Knex): Promise<void> {
  for (const statement of STATEMENTS) await knex.raw(statement);
}

export async function down(): Promise<void> {
  throw new Error('migrations go forward only; a backup from before stands beside the database');
}

const STATEMENTS = [
  // estimates: what was thought of it when it was given, as JSON, to be held against what came of it
  // the key goes out with the order: a venue takes it once. Amounts in the venue's currency; rate in millionths of the brief's
  `CREATE TABLE orders (
    id INTEGER PRIMARY KEY, key TEXT NOT NULL UNIQUE, brief_id INTEGER NOT NULL REFERENCES briefs(id),
    domain_id INTEGER NOT NULL REFERENCES domains(id), venue TEXT NOT NULL, url TEXT, kind TEXT NOT NULL, state TEXT NOT NULL,
    amount_minor INTEGER NOT NULL, currency TEXT NOT NULL, rate_ppm INTEGER NOT NULL, fees_minor INTEGER NOT NULL,
    price_minor INTEGER, least_minor INTEGER, counter_minor INTEGER, final_minor INTEGER, bids INTEGER, reserve TEXT,
    closes_at INTEGER, reason TEXT, send_at INTEGER, attempts INTEGER NOT NULL DEFAULT 0, next_at INTEGER,
    estimates TEXT NOT NULL DEFAULT '{}', created_at INTEGER NOT NULL, sent_at INTEGER, answered_at INTEGER, ended_at INTEGER)`,
  `CREATE INDEX orders_next ON orders(next_at) WHERE next_at IS NOT NULL`,
  `CREATE INDEX orders_domain ON orders(domain_id)`,
  `CREATE INDEX orders_brief ON orders(brief_id)`,
  // everything that was done or heard, in order; never changed
  `CREATE TABLE order_events (
    id INTEGER PRIMARY KEY, order_id INTEGER NOT NULL REFERENCES orders(id), at INTEGER NOT NULL, who TEXT NOT NULL,
    state TEXT NOT NULL, words TEXT NOT NULL)`,
  `CREATE INDEX order_events_order ON order_events(order_id)`,
  // double entry in minor units of the brief's currency: the lines of one posting sum to zero; never changed
  `CREATE TABLE ledger (
    id INTEGER PRIMARY KEY, posting INTEGER NOT NULL, at INTEGER NOT NULL, brief_id INTEGER NOT NULL REFERENCES briefs(id),
    order_id INTEGER REFERENCES orders(id), account TEXT NOT NULL, amount_minor INTEGER NOT NULL, words TEXT NOT NULL)`,
  `CREATE INDEX ledger_brief ON ledger(brief_id)`,
  `CREATE TRIGGER ledger_stays BEFORE UPDATE ON ledger BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END`,
  `CREATE TRIGGER ledger_keeps BEFORE DELETE ON ledger BEGIN SELECT RAISE(ABORT, 'the ledger is not changed'); END`,
  `CREATE TRIGGER order_events_stay BEFORE UPDATE ON order_events BEGIN SELECT RAISE(ABORT, 'the log is not changed'); END`,
  // what is owned; amounts in the currency named
  `CREATE TABLE holdings (
    domain_id INTEGER PRIMARY KEY REFERENCES domains(id), brief_id INTEGER REFERENCES briefs(id),
    order_id INTEGER REFERENCES orders(id), bought_at INTEGER NOT NULL, cost_minor INTEGER NOT NULL, fees_minor INTEGER NOT NULL,
    currency TEXT NOT NULL, seller TEXT NOT NULL, renews_at INTEGER, renewal_minor INTEGER, note TEXT NOT NULL DEFAULT '')`,
  // how many look at an offer, where its venue says so
  `ALTER TABLE listings ADD COLUMN watchers INTEGER`,
  // phrases that domains are found by, as lists estimate them
  `CREATE TABLE rankings (
    domain_id INTEGER NOT NULL REFERENCES domains(id), source TEXT NOT NULL, phrase TEXT NOT NULL, position INTEGER NOT NULL,
    searches INTEGER NOT NULL, click_minor INTEGER NOT NULL, currency TEXT, competition REAL, at INTEGER, taken_at INTEGER NOT NULL,
    PRIMARY KEY (domain_id, source, phrase)) WITHOUT ROWID`,
  // what worth is reckoned with where nobody counted, as JSON; what is not there is as usual
  `ALTER TABLE briefs ADD COLUMN assumptions TEXT NOT NULL DEFAULT '{}'`,
  // ISO 3166-1 alpha-2; none: any
  `ALTER TABLE briefs ADD COLUMN countries TEXT NOT NULL DEFAULT '[]'`,
  // the time it runs for, ms; null: open
  `ALTER TABLE briefs ADD COLUMN from_at INTEGER`,
  `ALTER TABLE briefs ADD COLUMN until_at INTEGER`,
  // how much each purpose counts, as JSON; null: its one purpose
  `ALTER TABLE briefs ADD COLUMN mix TEXT`,
  // what a domain must have, as JSON
  `ALTER TABLE briefs ADD COLUMN house_limits TEXT NOT NULL DEFAULT '{}'`,
  // what a maximum bid is reckoned with: hundredths of the cost, months until it is sold, a year's renewal, hundredths a year
  `ALTER TABLE briefs ADD COLUMN margin_percent INTEGER NOT NULL DEFAULT 40`,
  `ALTER TABLE briefs ADD COLUMN months INTEGER NOT NULL DEFAULT 12`,
  `ALTER TABLE briefs ADD COLUMN renewal_minor INTEGER NOT NULL DEFAULT 1500`,
  `ALTER TABLE briefs ADD COLUMN interest_percent INTEGER NOT NULL DEFAULT 5`,
];
