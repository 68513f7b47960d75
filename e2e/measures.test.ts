import { join } from 'node:path';
import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import { comparePages } from '../src/core/history/page-changes';
import { runInspect } from '../src/engine/jobs/inspect';
import { runLinks } from '../src/engine/jobs/links';
import { runMeasure } from '../src/engine/jobs/measure';
import { type Trial, trial } from '../src/engine/jobs/testing';
import { Stopped } from '../src/engine/runner/context';
import { readDossier } from '../src/services/dossier/dossier';
import { measureView } from '../src/services/dossier/measured';
import { type Store, write } from '../src/store/base/database';
import { changeSettings } from '../src/store/base/settings';
import { findDomain, putDomain } from '../src/store/domains/domains';
import { addMarkReview } from '../src/store/domains/word-marks';
import { capturePage, capturesOf, captureTimes } from '../src/store/links/captures';
import { readInspection } from '../src/store/links/inspections';
import { queueLength, spend, spentToday, wantMeasured } from '../src/store/links/measure-queue';
import { ownerSigns } from '../standins/owners';
import { type ServedWorld, serveWorld } from './served-world';

const STORIES = [
  'ossenmerebeeclub.org',
  'cradlewickhivecraft.com',
  'dunscarrowhiveshop.com',
  'mirrowbybeeinspector.org',
  'gantrymoorbeediary.net',
  'thornabeckhoney.com',
];

let served: ServedWorld;
let store: Store;
const idOf = (name: string) => findDomain(store, name)!.id;
const dossier = async (name: string) => (await readDossier(store, name, 1))!;
async function inspect(params: Record<string, unknown>): Promise<Trial> {
  const run = trial(store, 'inspect', params);
  await runInspect(run.context);
  return run;
}

beforeAll(async () => {
  served = await serveWorld(7, 400);
  store = served.store;
  for (const [file, name] of [
    ['link-index.csv.gz', 'Vale link index'],
    ['lesser-index.csv.gz', 'Lesser index'],
  ]) {
    const run = trial(store, 'links', { path: join(served.files, file) });
    store.raw.prepare('UPDATE sources SET name = ? WHERE id = ?').run(name, run.sourceId);
    await runLinks(run.context);
  }
  for (const name of STORIES) putDomain(store, { name, ending: name.slice(name.indexOf('.') + 1) }, true, 1);
  await runMeasure(trial(store, 'measure', { ids: [] }).context);
  const run = await inspect({ ids: STORIES.map(idOf), isByHand: true });
  // the strength of a forwarder is reckoned with the links
  expect(run.orders.map(({ kind }) => kind)).toEqual(['measure']);
  await runMeasure(trial(store, 'measure', run.orders[0].params).context);
}, 180_000);
afterAll(() => served.close());

describe('the tales of the world, measured', () => {
  it('finds a club of twenty years with honest links', async () => {
    const club = await dossier('ossenmerebeeclub.org');
    expect(club.past).toMatchObject({ drops: [], drift: 0, subjectSwitches: 0 });
    expect(club.contentYears).toBeGreaterThan(15);
    expect(club.subject).toBe('Beekeeping');
    expect(club.subjectWhy?.words.length).toBeGreaterThan(4);
    expect(club.spamRisk).toBeLessThan(15);
    expect(club.effective).toBeGreaterThan(0.8 * club.referringDomains!);
    expect(club.effective).toBeLessThan(club.referringDomains!);
    expect(club.spamMass).toBeLessThan(0.2);
  });

  it('finds the casino that came after the craft shop, and when', async () => {
    const casino = await dossier('cradlewickhivecraft.com');
    expect(casino.past?.eras.map(({ subject }) => subject)).toEqual(['Beekeeping', 'Gambling']);
    expect(casino.drift).toBeGreaterThan(0.8);
    expect(casino.drops).toBe(1);
    expect(casino.subject).toBe('Beekeeping');
    expect(casino.spamRisk).toBeGreaterThanOrEqual(50);
    const risky = casino.spam?.card.results.find(({ rule }) => rule === 'risky-content');
    expect(risky?.evidence.join()).toContain('Gambling');
    expect(casino.readCaptures.every(({ marks }) => marks.length > 0)).toBe(true);
    // what it shows, and where it turned, can be looked at
    const [first, last] = [casino.readCaptures[0], casino.readCaptures.at(-1)!];
    expect(casino.readCaptures.every(({ isKept }) => isKept)).toBe(true);
    const pages = [first, last].map(({ at }) => capturePage(store, idOf(casino.name), at)!);
    expect(pages[0][0]).toEqual({ kind: 'heading', level: 1, text: 'Cradlewick Hivecraft' });
    expect(comparePages(pages[0], pages[1]).sameRatio).toBeLessThan(0.2);
    expect(casino.life.spans.filter(({ lane }) => lane === 'content').map(({ look }) => look)).toEqual([
      'solid',
      'light',
    ]);
    expect(casino.life.spans.find(({ look }) => look === 'drop')?.detail).toContain('another site followed');
  });

  it('fills the list of due diligence in from what it found, with when', async () => {
    const state = async (name: string, item: string) =>
      (await dossier(name)).diligence.find((one) => one.item === item);
    expect(await state('ossenmerebeeclub.org', 'continuity')).toMatchObject({ state: 'fine', by: 'found' });
    expect(await state('ossenmerebeeclub.org', 'continuity')).toHaveProperty('at', expect.any(Number));
    expect(await state('cradlewickhivecraft.com', 'continuity')).toMatchObject({ state: 'bad' });
    expect(await state('cradlewickhivecraft.com', 'anchors')).toMatchObject({ state: 'bad' });
    expect(await state('dunscarrowhiveshop.com', 'network')).toMatchObject({ state: 'bad' });
    expect(await state('mirrowbybeeinspector.org', 'forwarding')).toMatchObject({ state: 'bad' });
    expect(await state('gantrymoorbeediary.net', 'continuity')).toMatchObject({ state: 'bad' });
    expect(await state('thornabeckhoney.com', 'marks')).toMatchObject({ state: 'look' });
    expect(await state('ossenmerebeeclub.org', 'claims')).toMatchObject({ state: 'open', by: null });
  });

  it('tells the language of linking pages that were read', async () => {
    const { languages } = (await dossier('ossenmerebeeclub.org')).profile;
    expect(languages[0].title).toBe('English');
    expect(languages.reduce((sum, { domains }) => sum + domains, 0)).toBe(
      (await dossier('ossenmerebeeclub.org')).weighing!.referring,
    );
  });

  it('collapses a shop whose links come from one network to a few votes, with the signs', async () => {
    const shop = await dossier('dunscarrowhiveshop.com');
    expect(shop.referringDomains).toBeGreaterThanOrEqual(45);
    expect(shop.effective).toBeLessThan(6);
    const [network] = shop.weighing!.networks;
    expect(network.sites).toHaveLength(45);
    expect(network.signs.join()).toMatch(/name servers .* and addresses 127\.66\.7/);
    expect(network.signs.join()).toContain('tracking id UA-7700143');
    const taken = Object.values(shop.weighing!.taken).reduce((sum, value) => sum + value, 0);
    expect(taken + shop.weighing!.value).toBeCloseTo(shop.weighing!.referring, 0);
  });

  it('tells the strength of a forwarder with and without what it borrows', async () => {
    const forwarder = await dossier('mirrowbybeeinspector.org');
    expect(forwarder.forwarding).toMatchObject({ to: 'merrowvalegazette.com', isNow: true });
    expect(forwarder.strengthWith).toBeGreaterThan(forwarder.strength! + 5);
    const target = findDomain(store, 'merrowvalegazette.com')!;
    expect(forwarder.strengthWith).toBeGreaterThanOrEqual(target.strength!);
    expect(forwarder.past?.eras.at(-1)).toMatchObject({ kind: 'redirect', redirectTo: 'merrowvalegazette.com' });
  });

  it('sees that a site changed its language', async () => {
    const diary = await dossier('gantrymoorbeediary.net');
    expect(diary.past).toMatchObject({ languageSwitches: 1 });
    expect(diary.past?.eras.map(({ language }) => language)).toEqual(['en', 'de']);
  });

  it('finds a trademark that sounds the same, and keeps what a person decides', async () => {
    const { matches } = (await dossier('thornabeckhoney.com')).marksFound;
    expect(matches[0]).toMatchObject({ mark: 'Thornabeck Hunny', why: 'it sounds the same', classes: '29, 30' });
    addMarkReview(store, idOf('thornabeckhoney.com'), 'unsure', 'asked a lawyer');
    addMarkReview(store, idOf('thornabeckhoney.com'), 'clear', 'other classes');
    expect((await dossier('thornabeckhoney.com')).marksFound.reviews.map(({ verdict }) => verdict)).toEqual([
      'clear',
      'unsure',
    ]);
  });

  it('keeps the counts of both indexes, and says why they differ', async () => {
    const club = await dossier('ossenmerebeeclub.org');
    expect(club.counts.map(({ source }) => source)).toEqual(['Vale link index', 'Lesser index']);
    const [vale, lesser] = club.counts.map(({ referringDomains }) => referringDomains!);
    expect(vale).toBeGreaterThan(lesser);
    changeSettings(store, { countFactor: 1.5 });
    expect((await dossier('ossenmerebeeclub.org')).disagreement).toMatchObject({
      most: 'Vale link index',
      least: 'Lesser index',
    });
    changeSettings(store, { countFactor: 3 });
  });

  it('sorts by the count of one index, when that is the rule', async () => {
    changeSettings(store, { countRule: 'source:Lesser index' });
    await runMeasure(trial(store, 'measure', { ids: [], all: true }).context);
    const club = await dossier('ossenmerebeeclub.org');
    expect(club.countFrom).toBe('Lesser index');
    expect(club.referringDomains).toBe(club.counts[1].referringDomains);
    changeSettings(store, { countRule: 'together' });
    await runMeasure(trial(store, 'measure', { ids: [], all: true }).context);
    expect((await dossier('ossenmerebeeclub.org')).countFrom).toBe('2 sources together');
  });

  it('looks at linking pages again: what is gone has no vote, what is there keeps it', async () => {
    const { referrers } = await dossier('ossenmerebeeclub.org');
    const gone = referrers.filter(({ standing }) => standing === 'gone');
    expect(gone.length).toBeGreaterThan(0);
    for (const { site, weight } of gone) {
      expect(weight).toBe(0);
      const tidied = served.world.links.filter(
        (link) => link.from.name === site && link.to.name === 'ossenmerebeeclub.org',
      );
      expect(tidied.length).toBeGreaterThan(0);
    }
    const there = referrers.filter(({ standing }) => standing === 'there');
    expect(there.length).toBeGreaterThan(40);
    for (const { site, addressBlock } of there.slice(0, 10))
      expect(ownerSigns(served.world.domains.get(site)!).address.startsWith(`${addressBlock}.`)).toBe(true);
  });

  it('reads more captures of a site that changed than of one that did not, and few of all', () => {
    const read = (name: string) => readInspection(store, idOf(name))!.captures_read!;
    for (const name of STORIES) expect(read(name)).toBeLessThanOrEqual(24);
    const club = 'ossenmerebeeclub.org';
    expect(read(club)).toBeLessThan(captureTimes(store, idOf(club)).length / 2);
  });
});

describe('what measuring costs', () => {
  const strangers = () =>
    [...served.world.domains.values()].filter(({ role, story }) => role === 'target' && !story).slice(0, 30);

  it('takes nothing twice while it is fresh, and reads kept captures no more', async () => {
    const spent = spentToday(store, store.now());
    const run = await inspect({ ids: STORIES.map(idOf), isByHand: true });
    expect(spentToday(store, store.now())).toBe(spent);
    expect(run.progress.at(-1)?.message).toContain('6 had nothing due');
  });

  it('keeps sieves behind the gate and within the budget, and a person not', async () => {
    const ids = strangers().map(({ name, ending }) => putDomain(store, { name, ending }, true, 1).id);
    await runMeasure(trial(store, 'measure', { ids: [], all: true }).context);
    const before = spentToday(store, store.now());
    changeSettings(store, { measureBudget: before, measureGate: { leastReferring: 5, mostSpamRisk: 70 } });
    await inspect({ ids, wantedBy: 'sieve old names', isByHand: false });
    // those that the gate stops leave the queue; the others wait for tomorrow
    expect(queueLength(store)).toBeGreaterThan(0);
    expect(queueLength(store)).toBeLessThan(ids.length);
    const view = measureView(store);
    expect(view.next[0]).toMatchObject({
      wantedBy: 'sieve old names',
      measures: ['captures', 'forwarding', 'referrers', 'marks'],
    });
    expect(view.next[0].why).toMatch(/strength \d+, \d+ referring domains/);
    expect(view.next.every(({ worth }, n) => n === 0 || worth <= view.next[n - 1].worth)).toBe(true);
    const waiting = findDomain(store, view.next.at(-1)!.name)!;
    expect(readInspection(store, waiting.id)?.captures_at ?? null).toBeNull();
    await inspect({ ids: [waiting.id], isByHand: true });
    expect(readInspection(store, waiting.id)?.captures_at).not.toBeNull();
    changeSettings(store, { measureBudget: 20_000 });
    await inspect({});
    expect(queueLength(store)).toBe(0);
  });

  it('goes on after an interruption without losing or repeating a domain', async () => {
    const ids = [...served.world.domains.values()]
      .filter(({ role }) => role === 'target')
      .slice(200, 208)
      .map(({ name, ending }) => putDomain(store, { name, ending }, true, 1).id);
    const first = trial(store, 'inspect', { ids, isByHand: true });
    first.context.progress = () => first.stop.abort();
    await expect(runInspect(first.context)).rejects.toThrow(Stopped);
    expect(queueLength(store)).toBeGreaterThan(0);
    const done = ids.filter((id) => readInspection(store, id)?.captures_at);
    const takenAt = done.map((id) => readInspection(store, id)?.captures_at);
    await runInspect(trial(store, 'inspect', {}, first).context);
    expect(queueLength(store)).toBe(0);
    expect(done.map((id) => readInspection(store, id)?.captures_at)).toEqual(takenAt);
  });

  it('spends by day', () => {
    const at = Date.UTC(2030, 0, 1);
    write(store, () => spend(store, 7, at));
    write(store, () => spend(store, 5, at + 3_600_000));
    expect(spentToday(store, at)).toBe(12);
    expect(spentToday(store, at + 86_400_000)).toBe(0);
    expect(wantMeasured(store, [], 'nobody', false, at)).toBe(0);
  });
});

describe('an archive that overdoes it', () => {
  it('hands out captures in broken encodings, which are judged all the same', async () => {
    const { id } = putDomain(store, { name: 'broken.example', ending: 'example' }, true, 1);
    await inspect({ ids: [id], isByHand: true });
    const read = capturesOf(store, id);
    expect(read).toHaveLength(3);
    for (const capture of read) {
      expect(capture).toMatchObject({ kind: 'content', subject: 'farming.beekeeping', title: 'Café <b>naïve' });
      expect(capture.title).not.toContain('\u202e');
    }
  });

  it.each([
    ['countless.example', 200_000, 0],
    ['endless.example', 20, 1],
  ])('%s', async (name, captures, partial) => {
    const { id } = putDomain(store, { name, ending: 'example' }, true, 1);
    await inspect({ ids: [id], isByHand: true });
    expect(captureTimes(store, id)).toHaveLength(captures);
    expect(readInspection(store, id)).toMatchObject({ captures_partial: partial, captures_read: 0 });
    expect(capturesOf(store, id)).toEqual([]);
  });
});
