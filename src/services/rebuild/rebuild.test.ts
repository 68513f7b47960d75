import { beforeEach, describe, expect, it } from 'vitest';
import { type Store, write } from '../../store/base/database';
import { freshStore } from '../../store/base/testing';
import { putCapturePage } from '../../store/links/captures';
import { addHoldings } from '../../store/portfolio/holdings';
import { putRankings } from '../../store/portfolio/rankings';
import { changeSteps } from '../../store/portfolio/rebuild';
import { briefOfTest, captureOfTest, domainOfTest, linkOfTest } from '../../store/testing';
import { rebuildPlan } from './rebuild';

const NAME = 'tarnhives.org';
const DAY = 86_400_000;
let store: Store;

beforeEach(async () => {
  store = await freshStore();
  briefOfTest(store, { purpose: 'rebuild' });
  linkOfTest(store, 'quillmere.org', NAME, { toUrl: `https://${NAME}/queens`, anchor: 'raising queen bees' });
  linkOfTest(store, 'ossenmere.org', NAME, { toUrl: `https://${NAME}/queens`, anchor: 'queen bees' });
  linkOfTest(store, 'saltmarsh.com', NAME, { toUrl: `https://${NAME}/shop`, anchor: 'shop' });
});
const row = () => domainOfTest(store, NAME);
const ranking = {
  name: NAME, ending: 'org', line: 1, phrase: 'raising queen bees', position: 2, searches: 900, clickMinor: 80, currency: 'EUR', competition: 0.2,
  at: null,
}; // biome-ignore format: one phrase

describe('a plan to bring a site back', () => {
  it('puts pages in the order of what they carry, phrases with the page they are of', async () => {
    putRankings(store, [ranking], 'Phrases of autumn');
    const plan = await rebuildPlan(store, row());
    expect(plan.pages[0]).toMatchObject({ path: '/queens' });
    expect(plan.pageCount).toBe(plan.pages.length);
    expect(plan.worth).toMatchObject({ sources: ['Phrases of autumn'] });
    expect(plan.worth?.monthMinor).toBeGreaterThan(0);
    expect(plan.currency).toBe('EUR');
  });

  it('says nothing of worth where no list names a phrase', async () => {
    expect((await rebuildPlan(store, row())).worth).toBeNull();
  });

  it('keeps what was decided of its steps, and how far it is', async () => {
    const before = await rebuildPlan(store, row());
    const [step] = before.steps;
    changeSteps(store, row().id, [
      { key: step.key, state: 'done' },
      { key: 'own:1', state: 'wanted', words: 'ask Mara for the old photographs' },
    ]);
    const after = await rebuildPlan(store, row());
    expect(after.progress).not.toEqual(before.progress);
    expect(after.steps.find(({ key }) => key === step.key)).toMatchObject({ state: 'done' });
    expect(after.steps.map(({ words }) => words)).toContain('ask Mara for the old photographs');
  });

  it('shows the last content that was read whole as its outline', async () => {
    expect((await rebuildPlan(store, row())).outline).toBeNull();
    const at = Date.UTC(2016, 3, 1);
    captureOfTest(store, row(), { at, title: 'Tarn Hives' });
    captureOfTest(store, row(), { at: at + DAY, title: 'Parked', kind: 'parked' });
    write(store, () =>
      putCapturePage(store, row().id, at, [
        { kind: 'heading', level: 1, text: 'Raising queens' },
        { kind: 'text', level: 0, text: 'In spring we begin.' },
      ]),
    );
    expect((await rebuildPlan(store, row())).outline).toMatchObject({ at, title: 'Tarn Hives' });
  });

  it('tells whether it is owned', async () => {
    expect((await rebuildPlan(store, row())).isOwned).toBe(false);
    const bought = { boughtAt: null, costMinor: 900, currency: null, renewsAt: null, renewalMinor: null, seller: '' };
    addHoldings(store, [{ line: 1, name: NAME, ending: 'org', ...bought }]);
    expect((await rebuildPlan(store, row())).isOwned).toBe(true);
  });
});
