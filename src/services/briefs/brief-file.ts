import type { z } from 'zod';
import type { BriefFileSchema } from '../../contracts/briefs';
import { freeName } from '../../core/free-name';
import { registrableDomain } from '../../core/names/domain';
import type { Store } from '../../store/base/database';
import { putDomain } from '../../store/domains/domains';
import { addNote, notesOf } from '../../store/domains/notes';
import { changeSieve, listSieves, saveSieve } from '../../store/pool/sieves';
import { listBriefs, saveBrief } from '../../store/shortlist/briefs';
import { addToShortlist, changeShortlist, readShortlist } from '../../store/shortlist/shortlist';
import { sieveFile, viewOfFile } from '../pool/sieve-file';

export type BriefFile = z.infer<typeof BriefFileSchema>;

/** A brief that means the same on another machine: with the sieves that fill its shortlist, the shortlist itself, and notes. */
export function briefFile(store: Store, id: number): BriefFile | null {
  const found = listBriefs(store).find((brief) => brief.id === id);
  if (!found) return null;
  const { id: _, createdAt: __, ...brief } = found;
  return {
    kind: 'brief',
    version: 1,
    brief: brief as BriefFile['brief'],
    sieves: listSieves(store)
      .filter(({ shortlistBrief }) => shortlistBrief === id)
      .map((sieve) => sieveFile(store, sieve)),
    shortlist: readShortlist(store, id).map((entry) => ({
      name: entry.domain.name,
      stage: entry.stage,
      maximumBidMinor: entry.maximumBidMinor,
      worthLowMinor: entry.worthLowMinor,
      worthHighMinor: entry.worthHighMinor,
      feesMinor: entry.feesMinor,
      note: entry.note,
      notes: notesOf(store, entry.domainId).map(({ text }) => text),
    })),
  };
}

/**
 * Takes such a file in. A name that is taken gets a number; names come into the pool.
 *
 * @returns the brief's id, domains that are to be shown, and what could not be taken, in words.
 */
export function takeBriefFile(store: Store, file: BriefFile): { id: number; ids: number[]; problems: string[] } {
  const name = freeName(
    file.brief.name,
    listBriefs(store).map((brief) => brief.name),
  );
  const id = saveBrief(store, { ...file.brief, name });
  const problems: string[] = [];
  const ids: number[] = [];
  for (const entry of file.shortlist) {
    const domain = registrableDomain(entry.name);
    if (!domain) {
      problems.push(`"${entry.name.slice(0, 80)}" is no registrable domain`);
      continue;
    }
    const { id: domainId } = putDomain(store, domain, true, store.now());
    ids.push(domainId);
    addToShortlist(store, id, [domainId]);
    const { name: _, notes, ...change } = entry;
    changeShortlist(store, id, domainId, change);
    const known = new Set(notesOf(store, domainId).map(({ text }) => text));
    for (const text of [...notes].reverse()) if (!known.has(text)) addNote(store, domainId, text);
  }
  for (const sieve of file.sieves) {
    const { view, problems: ofSieve } = viewOfFile(store, sieve);
    const title = freeName(
      sieve.name,
      listSieves(store).map((one) => one.name),
    );
    changeSieve(store, saveSieve(store, title, view), { shortlistBrief: id });
    problems.push(...ofSieve);
  }
  return { id, ids, problems };
}
