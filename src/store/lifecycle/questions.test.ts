import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../base/database';
import { addJob } from '../base/jobs';
import { knex, run } from '../base/query';
import { freshStore } from '../base/testing';
import { putSighting } from '../domains/domains';
import { addToShortlist } from '../shortlist/shortlist';
import { briefOfTest, domainOfTest, sourceOfTest } from '../testing';
import { clearLookupProblem, lookupProblems, putLookupProblem } from './lookup-problems';
import { closeQuestion, leaveQuestions, newsFor, openQuestions, tellDns } from './question-news';
import { countQueues, countQueuesOf, nextQuestions, placeOf, urgentQuestions } from './question-queues';
import {
  addQuestions,
  moveQuestion,
  NOBODY,
  OWN_SERVERS,
  pendingChecks,
  type Question,
  raiseQuestion,
  turnOf,
} from './questions';
import {
  releaseDue,
  releaseQuestions,
  suspendDns,
  suspendQuestion,
  suspendQueue,
  waitingNames,
} from './suspended-questions';
import { putWaiting } from './verdicts';
import { askDue, countWatched, droppingSoon, setWatched, watchedDomains } from './watching';

const SERVER = 'whois.registry.test';
const HOUR = 3_600_000;
const DAY = 24 * HOUR;
let store: Store;
let job: number;

beforeEach(async () => {
  store = await freshStore();
  job = addJob(store, { kind: 'check', sourceId: null, params: {} });
});

const domain = (name: string, values = {}) => domainOfTest(store, `${name}.org`, values).id;
const ask = (ids: number[], by = job, ...how: [depth?: 'record' | 'registrar' | 'full', priority?: 'raised']) =>
  write(store, () => addQuestions(store, by, ids, how[0] ?? 'record', how[1]));
const waiting = (step: 'dns' | 'record' = 'dns', server = '') => nextQuestions(store, step, server, 100);
const namesOf = (questions: Question[]) => questions.map(({ name }) => name.split('.')[0]);
const toRecord = (ids: number[], server = SERVER) =>
  run(store, knex('questions').whereIn('domain_id', ids).update({ step: 'record', server }));

describe('the order of questions', () => {
  it('is the closest deadline first, then strength; what a person raised goes before', () => {
    const now = store.now();
    const [weak, strong, closing, dropping, raised] = [
      domain('weak', { strength: 2 }),
      domain('strong', { strength: 80 }),
      domain('closing', { closing_at: now + 5 * HOUR }),
      domain('dropping', { drop_from: now + HOUR, drop_at: now + 40 * HOUR }),
      domain('raised'),
    ];
    ask([weak, strong, closing, dropping]);
    ask([raised], job, 'record', 'raised');
    expect(namesOf(waiting())).toEqual(['raised', 'dropping', 'closing', 'strong', 'weak']);
    raiseQuestion(store, weak);
    expect(namesOf(urgentQuestions(store, 'dns', '', 10)).sort()).toEqual(['raised', 'weak']);
    // a deadline that is over is none
    expect(turnOf({ closing_at: now - 1, drop_at: null, drop_from: null, strength: 80 }, now)).toBe(
      turnOf({ closing_at: null, drop_at: null, drop_from: null, strength: 80 }, now),
    );
  });

  it('says how many stand before one, and nothing of one that rests or is answered', () => {
    const [first, second] = [domain('first', { strength: 80 }), domain('second')];
    ask([first, second]);
    expect(placeOf(store, second)).toMatchObject({ step: 'dns', before: 1, waits: null });
    expect(placeOf(store, first)).toMatchObject({ before: 0 });
    write(store, () => closeQuestion(store, first, 'delegated', 'active'));
    expect(placeOf(store, first)).toBeNull();
    leaveQuestions(store, job, false);
    expect(placeOf(store, second)).toBeNull();
  });
});

describe('a question that several ask', () => {
  it('is put once, as deep as the deepest wants, and tells all of them', () => {
    const id = domain('tarnhives');
    const other = addJob(store, { kind: 'check', sourceId: null, params: {} });
    ask([id], job, 'record');
    ask([id], other, 'full');
    ask([id], NOBODY, 'registrar');
    expect(waiting()).toMatchObject([{ domainId: id, depth: 'full' }]);
    write(store, () => tellDns(store, id, 'delegated'));
    write(store, () => closeQuestion(store, id, 'delegated', 'active'));
    for (const by of [job, other]) {
      expect(newsFor(store, by, 0).map(({ dns, phase }) => [dns, phase])).toEqual([
        ['delegated', null],
        ['delegated', 'active'],
      ]);
      expect(openQuestions(store, by)).toBe(0);
    }
    expect(newsFor(store, job, newsFor(store, job, 0)[1].id)).toEqual([]);
  });

  it('tells whoever comes later at once what DNS has said', () => {
    const id = domain('tarnhives');
    ask([id]);
    const [question] = waiting();
    const dns = { step: 'dns', server: '', outcome: 'nxdomain', detail: '', elapsedMs: 1 } as const;
    write(store, () => moveQuestion(store, { ...question, step: 'record', server: SERVER, said: [dns] }));
    const later = addJob(store, { kind: 'check', sourceId: null, params: {} });
    ask([id], later);
    expect(newsFor(store, later, 0)).toMatchObject([{ domainId: id, dns: 'nxdomain', phase: null }]);
    expect(waiting('record', SERVER)).toMatchObject([{ said: [dns] }]);
  });

  it('begins anew where what was said is old', () => {
    const id = domain('tarnhives');
    ask([id]);
    toRecord([id]);
    run(store, knex('questions').update({ since: store.now() - HOUR }));
    ask([id]);
    expect(waiting()).toMatchObject([{ step: 'dns', server: '', said: [] }]);
  });

  it('rests when the last who asked leaves, and is put all the same where that is wanted', () => {
    const [one, two] = [domain('one'), domain('two')];
    const other = addJob(store, { kind: 'check', sourceId: null, params: {} });
    ask([one, two]);
    ask([two], other);
    leaveQuestions(store, job, false);
    expect(namesOf(waiting())).toEqual(['two']);
    leaveQuestions(store, other, true);
    expect(namesOf(waiting())).toEqual(['two']);
    expect(openQuestions(store, other)).toBe(0);
  });
});

describe('what cannot be asked now', () => {
  it('waits for its problem to pass, is counted by it, and goes on from where it was', () => {
    const ids = ['one', 'two', 'three'].map((name) => domain(name));
    ask(ids);
    toRecord(ids.slice(0, 2));
    putLookupProblem(store, { key: 'gone', words: 'It does not resolve.', remedy: 'Look at the address.' });
    expect(write(store, () => suspendQueue(store, 'record', SERVER, 'gone'))).toBe(2);
    expect(waitingNames(store)).toMatchObject([{ waitsFor: 'gone', words: 'It does not resolve.', names: 2 }]);
    expect(waitingNames(store, { jobId: job })).toMatchObject([{ names: 2 }]);
    expect(waitingNames(store, { jobId: job + 1 })).toEqual([]);
    expect(placeOf(store, ids[0])?.waits).toMatchObject({ words: 'It does not resolve.' });
    expect(countQueues(store).map(({ server, waiting: count }) => [server, count])).toEqual([['', 1]]);
    expect(write(store, () => releaseQuestions(store, 'gone', 1))).toBe(1);
    expect(waiting('record', SERVER)).toHaveLength(1);
    expect(write(store, () => releaseQuestions(store, 'gone'))).toBe(1);
    expect(countQueuesOf(store, job).reduce((sum, { waiting: count }) => sum + count, 0)).toBe(3);
    clearLookupProblem(store, 'gone');
    expect(lookupProblems(store)).toEqual([]);
  });

  it('counts how often a problem was met, and since when', () => {
    for (let n = 0; n < 3; n++) putLookupProblem(store, { key: 'gone', words: `no answer ${n}`, remedy: '' });
    const [problem] = lookupProblems(store);
    expect(problem).toMatchObject({ key: 'gone', words: 'no answer 2', times: 3 });
    expect(problem.lastAt).toBeGreaterThanOrEqual(problem.since);
  });

  it('of DNS tells all who asked that it failed', () => {
    const ids = ['one', 'two'].map((name) => domain(name));
    ask(ids);
    toRecord([ids[1]]);
    expect(write(store, () => suspendDns(store, 'no resolver'))).toBe(1);
    expect(newsFor(store, job, 0)).toMatchObject([{ domainId: ids[0], dns: 'failed' }]);
  });

  it('for its own silent servers is tried each day, and after a week only where somebody still wants to know', () => {
    const now = store.now();
    const ids = ['forgotten', 'watched', 'shortlisted', 'young', 'later'].map((name) => domain(name));
    const [, watched, shortlisted, young, later] = ids;
    ask(ids);
    write(store, () => {
      for (const id of ids)
        suspendQuestion(store, id, 'failed', 'unknown', OWN_SERVERS, id === later ? now + DAY : now);
      setWatched(store, watched, 'by hand', now);
    });
    addToShortlist(store, briefOfTest(store).id, [shortlisted]);
    run(
      store,
      knex('questions')
        .whereNot('domain_id', young)
        .update({ since: now - 8 * DAY }),
    );
    expect(write(store, () => releaseDue(store, now))).toBe(3);
    expect(namesOf(waiting()).sort()).toEqual(['shortlisted', 'watched', 'young']);
    expect(waitingNames(store)).toMatchObject([{ waitsFor: OWN_SERVERS, names: 1, nextAt: now + DAY }]);
    expect(newsFor(store, job, 0)).toHaveLength(5);
  });
});

describe('what a check has left to settle', () => {
  it('are names without a verdict from after it began, but those that were rejected', () => {
    const now = store.now();
    const source = sourceOfTest(store, 'list', 'Sunday drops');
    const [old, fresh, never, aside] = [
      domain('old', { phase: 'active', phase_at: now - DAY }),
      domain('fresh', { phase: 'active', phase_at: now }),
      domain('never'),
      domain('aside'),
    ];
    write(store, () => {
      for (const id of [old, fresh, never, aside]) putSighting(store, id, source, now, null, {});
      run(store, knex('set_aside').insert({ source_id: source, name: 'aside.org', reason: 'an ending that is out' }));
    });
    expect(pendingChecks(store, { sourceId: source }, now - HOUR)).toEqual([old, never]);
    expect(pendingChecks(store, { ids: [fresh, never, 4711] }, now - HOUR)).toEqual([never]);
  });

  it('are names whose verdict only says what they wait for, too, whoever has left them', () => {
    const now = store.now();
    const source = sourceOfTest(store, 'list', 'Sunday drops');
    const ids = ['waits', 'left', 'held-up', 'silent', 'answered'].map((name) => domain(name));
    const [waits, left, heldUp, silent, answered] = ids;
    ask(ids);
    write(store, () => {
      for (const id of ids) {
        putSighting(store, id, source, now, null, {});
        putWaiting(store, id, now, 'rdap.test', 'Its registry answers seldom.');
      }
      suspendQuestion(store, heldUp, 'nxdomain', 'unknown', 'server rdap.test', null);
      suspendQuestion(store, silent, 'failed', 'unknown', OWN_SERVERS, now + DAY);
      closeQuestion(store, answered, 'nxdomain', 'free');
    });
    leaveQuestions(store, job, false);
    ask([waits]);
    const open = [waits, left, heldUp];
    expect(pendingChecks(store, { ids }, now - HOUR)).toEqual(open);
    expect(pendingChecks(store, { sourceId: source }, now - HOUR)).toEqual(open);
  });
});

describe('watched names', () => {
  it('are asked when their look is due; those a person watches and that drop now before all else', () => {
    const now = store.now();
    const drops = {
      drop_from: now - HOUR,
      drop_to: now + HOUR,
      drop_conditional: 0 as const,
      phase: 'pending-delete' as const,
    };
    const [dropping, plain, later, unwatched] = [
      domain('dropping', drops),
      domain('plain'),
      domain('later'),
      domain('unwatched', drops),
    ];
    write(store, () => {
      for (const id of [dropping, plain, later]) setWatched(store, id, 'by hand', now);
    });
    run(
      store,
      knex('domains')
        .where('id', later)
        .update({ ask_at: now + HOUR }),
    );
    expect(askDue(store, now, 100)).toBe(2);
    expect(namesOf(waiting())).toEqual(['dropping', 'plain']);
    expect(waiting()[0].turn).toBeLessThan(-1e15);
    expect(askDue(store, now, 100)).toBe(0);
    // should the answer get lost, one in its window is asked again soon
    expect(askDue(store, now + 61_000, 100)).toBe(1);
    expect(unwatched).toBeGreaterThan(0);
  });

  it('stay a person’s, whatever else would watch them, and are counted', () => {
    const now = store.now();
    const [hand, near] = [domain('hand'), domain('near')];
    const set = (id: number, reason: 'by hand' | 'near miss' | null) =>
      write(store, () => setWatched(store, id, reason, now));
    expect([set(hand, 'by hand'), set(hand, 'near miss'), set(near, 'near miss')]).toEqual([true, false, true]);
    expect(countWatched(store)).toEqual({ byHand: 1, nearMisses: 1, due: 2 });
    expect(watchedDomains(store, true, 10).map(({ id }) => id)).toEqual([hand]);
    expect(set(near, 'by hand')).toBe(true);
    expect([set(near, null), set(near, null)]).toEqual([true, false]);
    expect(watchedDomains(store, false, 10)).toHaveLength(1);
  });

  it('tell which endings have a window that opens soon', () => {
    const now = store.now();
    const soon = domain('soon', { drop_from: now + HOUR, drop_to: now + 2 * HOUR, drop_conditional: 0 });
    const sooner = domain('sooner', { drop_from: now + HOUR / 2, drop_to: now + 2 * HOUR, drop_conditional: 0 });
    const perhaps = domain('perhaps', { drop_from: now + HOUR / 4, drop_to: now + 2 * HOUR, drop_conditional: 1 });
    write(store, () => {
      for (const id of [soon, sooner, perhaps]) setWatched(store, id, 'by hand', now);
    });
    expect(droppingSoon(store, now, 2 * HOUR)).toEqual([{ ending: 'org', from: now + HOUR / 2 }]);
    expect(droppingSoon(store, now, HOUR / 3)).toEqual([]);
  });
});
