import { beforeEach, describe, expect, it } from 'vitest';
import { ratesOf } from '../../core/settings/settings';
import { SHIPPED_POINTS, type SpamCard, scoreSpam } from '../../core/spam/scorecard';
import { type Store, write } from '../../store/base/database';
import { readSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { findDomain, putDomain } from '../../store/domains/domains';
import { actOn, beginAction, readAction, undoSome } from '../../store/domains/marks';
import { readPoolRow } from '../../store/domains/pool-rows.sql';
import { putSpamCard, spamCardOf } from '../../store/links/measures';
import { activePoints, lastFit } from '../../store/links/spam-points';
import { runRescore } from '../jobs/rescore';
import { trial } from '../jobs/testing';
import { LEAST_MARKS, RefitError, refit, unfit } from './refit';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

/** Spam of a kind that the shipped points know little of: places in footers that are sold. Clean ones have money words by chance. */
function cardOf(isSpam: boolean, n: number): SpamCard {
  const links = Array.from({ length: 30 }, (_, i) => ({
    fromSite: `site${i}.org`,
    anchor: isSpam
      ? i % 5 < 2
        ? `best roof quotes ${i}`
        : `name${n}`
      : i < (n % 4 === 1 ? 9 : 5)
        ? 'casino bonus'
        : `name${n}`,
    pages: isSpam ? 400 : 1,
    nofollow: false,
    firstSeenAt: Date.UTC(2010, 0, 1) + i * 100 * 86_400_000,
  }));
  return scoreSpam({
    name: `name${n}.org`,
    links,
    strengthRank: null,
    trustRank: null,
    drops: 0,
    past: null,
    votes: null,
  });
}

function mark(many: number): void {
  for (let n = 0; n < many; n++) {
    const isSpam = n % 2 === 0;
    const { id } = putDomain(store, { name: `name${n}.org`, ending: 'org' }, true, 1);
    write(store, () => putSpamCard(store, id, cardOf(isSpam, n), 5));
    const act = { kind: 'judge', judged: isSpam ? 'spam' : 'clean', reason: 'seen' } as const;
    actOn(store, beginAction(store, act), act, [id]);
  }
}

describe('refit', () => {
  it('wants enough marks, and of both kinds', () => {
    mark(10);
    expect(() => refit(store)).toThrow(`It takes ${LEAST_MARKS} domains`);
    mark(LEAST_MARKS);
    store.raw.prepare("UPDATE domains SET judged = 'spam'").run();
    expect(() => refit(store)).toThrow('of each kind');
    expect(lastFit(store)).toBeNull();
  });

  it('learns from marks, shows before and after, rescores all, and can be undone', async () => {
    mark(LEAST_MARKS + 10);
    const report = refit(store);
    expect(report.before.examples).toBe(LEAST_MARKS + 10);
    expect(report.after.area).toBeGreaterThan(report.before.area);
    expect(report.moved.length).toBeGreaterThan(0);
    const points = activePoints(store).points;
    expect(points['site-wide']).toBeGreaterThan(SHIPPED_POINTS.points['site-wide']);
    expect(points['money-anchors']).toBeLessThan(SHIPPED_POINTS.points['money-anchors']);
    const spam = findDomain(store, 'name0.org')!;
    const before = spam.spam_risk!;
    await runRescore(trial(store, 'rescore', {}).context);
    const after = findDomain(store, 'name0.org')!.spam_risk!;
    expect(after).toBeGreaterThan(before);
    expect(spamCardOf(store, spam.id)).toMatchObject({ at: 5, card: { risk: after } });
    unfit(store);
    await runRescore(trial(store, 'rescore', {}).context);
    expect(findDomain(store, 'name0.org')!.spam_risk).toBe(before);
    expect(activePoints(store)).toEqual(SHIPPED_POINTS);
    expect(() => unfit(store)).toThrow(RefitError);
  });
});

describe("a person's mark", () => {
  it('overrules the risk in the pool at once, leaves the computed one, and is never overwritten', async () => {
    const { id } = putDomain(store, { name: 'name1.org', ending: 'org' }, true, 1);
    const risk = () => readPoolRow(store, id, ratesOf(readSettings(store)))?.spamRisk;
    write(store, () => putSpamCard(store, id, cardOf(false, 1), 5));
    const computed = findDomain(store, 'name1.org')!.spam_risk;
    expect(risk()).toBe(computed);
    const act = { kind: 'judge', judged: 'spam', reason: 'seen it sold' } as const;
    const action = beginAction(store, act);
    actOn(store, action, act, [id]);
    expect(risk()).toBe(100);
    await runRescore(trial(store, 'rescore', {}).context);
    expect(risk()).toBe(100);
    expect(findDomain(store, 'name1.org')).toMatchObject({
      judged: 'spam',
      judged_reason: 'seen it sold',
      spam_risk: computed,
    });
    undoSome(store, readAction(store, action)!, 10);
    expect(risk()).toBe(computed);
  });
});
