import { afterAll, beforeAll, describe, expect, it } from 'vitest';
import type { Store } from '../base/database';
import { freshStore } from '../base/testing';
import { capturePage, capturePageTimes, putCapturePage } from '../links/captures';
import { putInspection } from '../links/inspections';
import { putMeasure, putSpamCard } from '../links/measures';
import { putDomain } from './domains';
import { factChangesOf } from './fact-changes';
import { actOn, beginAction, readAction, undoSome } from './marks';
import { addNote, addTick, notesOf, setNoteRemoved, ticksOf, undoTick } from './notes';

let store: Store;
beforeAll(async () => {
  store = await freshStore();
});
afterAll(() => store.close());

let made = 0;
const domain = () => putDomain(store, { name: `vale${++made}hives.org`, ending: 'org' }, true, 1000).id;
const changes = (id: number) =>
  factChangesOf(store, id, 100)
    .reverse()
    .map(({ at, fact, was, becomes, who }) => `${at} ${fact}: ${was} > ${becomes} (${who})`);
const measure = (id: number, strength: number, referringDomains: number, at: number) =>
  putMeasure(
    store,
    { id, backlinks: referringDomains, referringDomains, strength, trust: null, trustPath: null, readers: null },
    at,
  );

describe('what facts were before', () => {
  it('is written down when a fact changes from something known, with who says what it is now', () => {
    const id = domain();
    measure(id, 12, 40, 2000);
    expect(changes(id)).toEqual([]);
    measure(id, 15.5, 40, 3000);
    expect(changes(id)).toEqual(['3000 strength: 12 > 15.5 (links, counted and walked here)']);
    measure(id, 15.9, 41, 4000);
    expect(changes(id).slice(1)).toEqual([
      '4000 referring_domains: 40 > 41 (links, counted and walked here)',
      '4000 backlinks: 40 > 41 (links, counted and walked here)',
    ]);
  });

  it('knows the record with its server, and takes another hour of the same day for no change', () => {
    const id = domain();
    const record = (values: string) => store.raw.prepare(`UPDATE domains SET ${values} WHERE id = ?`).run(id);
    const day = 86_400_000;
    record(`registered_at = ${100 * day}, registrar = 'Tarn', record_at = 1, record_source = 'rdap.a'`);
    record(`registered_at = ${100 * day + 5000}, registrar = 'Tarn', record_at = 2, record_source = 'rdap.a'`);
    expect(changes(id)).toEqual([]);
    record(`registered_at = ${200 * day}, registrar = 'Fell', record_at = 3, record_source = 'rdap.b'`);
    expect(changes(id)).toEqual([
      `3 registered_at: ${100 * day + 5000} > ${200 * day} (rdap.b)`,
      '3 registrar: Tarn > Fell (rdap.b)',
    ]);
  });

  it('knows phases that were answered, not those that lists say or nobody knows', () => {
    const id = domain();
    const phase = (name: string, at: number | null) =>
      store.raw
        .prepare(`UPDATE domains SET phase = ?, phase_at = ?, phase_source = 'rdap a' WHERE id = ?`)
        .run(name, at, id);
    phase('pending-delete', null);
    phase('active', 10);
    phase('unknown', 11);
    phase('active', 12);
    expect(changes(id)).toEqual([]);
    phase('redemption', 13);
    expect(changes(id)).toEqual(['13 phase: active > redemption (rdap a)']);
  });

  it('knows what the past, the front page and the rules said', () => {
    const id = domain();
    putInspection(store, id, { captures_at: 5, content_years: 4, drift: 0.1, language: 'en', drops: 0 });
    putInspection(store, id, { captures_at: 6, content_years: 4.2, drift: 0.8, language: 'de', drops: 0 });
    expect(changes(id)).toEqual([
      '6 drift: 0.1 > 0.8 (the archive, captures read here)',
      '6 language: en > de (the archive, captures read here)',
    ]);
    putSpamCard(store, id, { risk: 10, results: [] } as never, 1);
    putSpamCard(store, id, { risk: 60, results: [] } as never, 2);
    expect(changes(id).at(-1)).toBe('null spam_risk: 10 > 60 (the spam rules)');
  });

  it('knows a mark from the start, with its reason, and that it was taken back', () => {
    const id = domain();
    const act = { kind: 'judge', judged: 'pass', reason: 'bad past' } as const;
    const action = beginAction(store, act);
    expect(actOn(store, action, act, [id])).toEqual([id]);
    expect(changes(id)[0]).toMatch(/^\d+ judged: null > pass: bad past \(you\)$/);
    const row = readAction(store, action);
    if (row) undoSome(store, row, 10);
    expect(changes(id)[1]).toMatch(/^\d+ judged: pass > null \(you, taken back\)$/);
  });
});

describe('what the person writes', () => {
  it('notes stand with their time, the latest first; one taken away can be given back', () => {
    const id = domain();
    const first = addNote(store, id, 'honest links');
    addNote(store, id, 'asked the owner');
    expect(notesOf(store, id).map(({ text }) => text)).toEqual(['asked the owner', 'honest links']);
    expect(setNoteRemoved(store, id, first.id, true)).toBe(true);
    expect(notesOf(store, id).map(({ text }) => text)).toEqual(['asked the owner']);
    setNoteRemoved(store, id, first.id, false);
    expect(notesOf(store, id).length).toBe(2);
    expect(setNoteRemoved(store, domain(), first.id, true)).toBe(false);
  });

  it('an answer of due diligence that is taken back leaves the one before', () => {
    const id = domain();
    addTick(store, id, 'read', 'look', '');
    const second = addTick(store, id, 'read', 'fine', 'all nine');
    expect(ticksOf(store, id).map(({ state }) => state)).toEqual(['look', 'fine']);
    expect(undoTick(store, id, second)).toBe(true);
    expect(undoTick(store, id, second)).toBe(false);
    expect(ticksOf(store, id).map(({ state }) => state)).toEqual(['look']);
  });
});

describe('pages of captures', () => {
  it('are kept packed, and given back as they were', () => {
    const id = domain();
    const blocks = [{ kind: 'heading', level: 1, text: 'Bienenfreunde · 蜂' } as const];
    putCapturePage(store, id, 7000, blocks);
    expect(capturePage(store, id, 7000)).toEqual(blocks);
    expect(capturePage(store, id, 7001)).toBeNull();
    expect(capturePageTimes(store, id)).toEqual([7000]);
  });
});
