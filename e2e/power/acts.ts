// Orders, marks, notes in the ledger and keys, one after the other, each told when it is done. Run by power.test.ts, which cuts the power.
import { writeSync } from 'node:fs';
import { openStore } from '../../src/store/base/database';
import { changeSettings } from '../../src/store/base/settings';
import { actOn, beginAction } from '../../src/store/domains/marks';
import { happen, placeOrder } from '../../src/store/orders/orders';
import { briefOfTest, domainOfTest } from '../../src/store/testing';

const [folder, isDurable] = process.argv.slice(2);
const store = await openStore(folder, { migrate: false, isDurable: isDurable === 'durable' });
const brief = briefOfTest(store, { budgetMinor: null });
changeSettings(store, { dayLimitMinor: null });
const tell = (words: string) => writeSync(1, `${words}\n`);
for (let n = 0; ; n++) {
  const { id } = domainOfTest(store, `hive${n}.org`);
  const order = placeOrder(store, {
    briefId: brief.id, domainId: id, venue: 'Saltmarch', url: null, kind: 'buy', amountMinor: 100 + n, currency: 'EUR', ratePpm: 1_000_000,
    feesMinor: 0, closesAt: null, sendAt: null, way: 'send',
  }); // biome-ignore format: one order
  tell(`order ${order.key}`);
  happen(store, order.id, { kind: 'send' }, 'Jam Ladle', 'sent to Saltmarch');
  happen(store, order.id, { kind: 'answer', state: 'won' }, 'Saltmarch', 'won', { finalMinor: 100 + n });
  tell(`won ${order.key}`);
  const act = { kind: 'judge', judged: 'keep' } as const;
  actOn(store, beginAction(store, act), act, [id]);
  tell(`mark ${id}`);
  changeSettings(store, {
    accounts: [{ venue: 'Saltmarch', address: 'http://127.0.0.1:9/', key: `key-${n}`, currency: 'EUR' }],
  });
  tell(`key ${n}`);
}
