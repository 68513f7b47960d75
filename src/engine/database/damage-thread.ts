import { parentPort, workerData } from 'node:worker_threads';
import { faultsOf, wordsOfPages } from '../../store/base/damage';
import { changedPages, type PageSums } from '../../store/base/page-sums';

export type DamageTask = { database: string; sums: PageSums | null };

/** Looks a database through: its pages against their sums, where there are some, else what SQLite finds. Says what is damaged, in words. */
function look({ database, sums }: DamageTask): string[] {
  if (!sums) return faultsOf(database);
  const pages = changedPages(database, sums);
  return pages.length === 0 ? [] : wordsOfPages(database, pages);
}

parentPort?.postMessage(look(workerData as DamageTask));
