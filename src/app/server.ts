import { cookies } from 'next/headers';
import { EngineClient } from '../client/engine';
import { dataFolder } from '../store/base/config';
import { openStore, type Store } from '../store/base/database';
import { type Brief, ensureBrief, listBriefs } from '../store/shortlist/briefs';

interface Shared {
  store?: Promise<Store>;
  engine?: EngineClient;
}

/** One store and one engine client per process, also over reloads in development. */
const globals = globalThis as { jamLadle?: Shared };
globals.jamLadle ??= {};
const shared = globals.jamLadle;

export function getStore(): Promise<Store> {
  shared.store ??= openStore(dataFolder(), { migrate: false });
  return shared.store;
}

/**
 * Another database has taken the place of the one that is open: it is opened anew. The old one stays open for who still reads it; it is
 * closed with the process.
 */
export function forgetStore(): void {
  shared.store = undefined;
}

export function getEngine(): EngineClient {
  shared.engine ??= new EngineClient(dataFolder());
  return shared.engine;
}

/** What services are given: store and engine, all briefs, and the one that the person works on, as the cookie says. */
export async function currentBrief(): Promise<{ store: Store; engine: EngineClient; briefs: Brief[]; brief: Brief }> {
  const store = await getStore();
  let briefs = listBriefs(store);
  if (briefs.length === 0) {
    ensureBrief(store);
    briefs = listBriefs(store);
  }
  const wanted = Number((await cookies()).get('brief')?.value);
  return { store, engine: getEngine(), briefs, brief: briefs.find((entry) => entry.id === wanted) ?? briefs[0] };
}
