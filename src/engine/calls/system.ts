import type { EngineHealth } from '../../contracts/engine';
import { readDamage } from '../../store/base/damage';
import { write } from '../../store/base/database';
import { readRates, settingsWith } from '../../store/base/settings';
import { domainsWithOffers, updateBestListing } from '../../store/offers/best-listing';
import { askPages } from '../connections/pages';
import { tryConnection } from '../connections/try';
import { prepareRestore } from '../database/restore';
import { tryMailbox } from '../mail/try-mailbox';
import { tryAbility } from '../setup/try';
import { announcePool, type EngineParts, type Handlers } from './parts';

const OFFERS_AT_ONCE = 500;
/** Until an answer has gone out. */
const ANSWERED_MS = 100;
/** The longest that a try may take, however many answers it waits for. */
const TRY_MS = 40_000;

/** How it stands, copies, settings. */
export const systemCalls = (
  parts: EngineParts,
): Handlers<
  '/health' | '/restore' | '/settings/changed' | '/setup/try' | '/connections/try' | '/mailbox/try' | '/pages/ask'
> => ({
  '/health': () =>
    ({
      state: parts.state(),
      poolSize: parts.pool.size,
      poolVersion: parts.pool.version,
      jobsRunning: parts.runner.runningCount,
      memoryBytes: process.memoryUsage.rss(),
      startedAt: parts.startedAt,
      damage: readDamage(parts.store.folder),
      mended: parts.mended(),
    }) satisfies EngineHealth,
  '/restore': ({ name }) => {
    const prepared = prepareRestore(parts.store.folder, name, Date.now());
    setTimeout(() => parts.end(), ANSWERED_MS);
    return prepared;
  },
  '/settings/changed': async () => {
    await repriceOffers(parts);
    return {};
  },
  '/setup/try': ({ ability, settings, question }) =>
    tryAbility(parts.store, ability, settingsWith(parts.store, settings), question, AbortSignal.timeout(TRY_MS)),
  '/mailbox/try': (question) => tryMailbox(parts.store, question, AbortSignal.timeout(TRY_MS)),
  '/pages/ask': ({ item, name }) => askPages(parts.store, item, name, AbortSignal.timeout(TRY_MS)),
  '/connections/try': ({ connection, question }) =>
    tryConnection(parts.store, connection, question, AbortSignal.timeout(TRY_MS)),
});

/** Prices follow the rates: which of several offers is best, and what the grid sorts by. */
async function repriceOffers(parts: EngineParts): Promise<void> {
  const { store, pool, venues } = parts;
  venues.outbox.forgetClient();
  venues.resales.forgetClient();
  const rates = readRates(store);
  const ids = domainsWithOffers(store);
  for (let start = 0; start < ids.length; start += OFFERS_AT_ONCE) {
    const part = ids.slice(start, start + OFFERS_AT_ONCE);
    write(store, () => {
      for (const id of part) updateBestListing(store, id, store.now(), rates);
    });
    await new Promise((resolve) => setImmediate(resolve));
  }
  await pool.reprice();
  announcePool(parts);
}
