import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../../store/base/database';
import { changeSettings } from '../../store/base/settings';
import { freshStore } from '../../store/base/testing';
import { tagNamed } from '../../store/domains/marks';
import { addSource } from '../../store/sources/sources';
import { engineOfTest } from '../testing';
import { readTypedLine } from './typed-line';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});
const engine = engineOfTest({
  wordsOfChoice: async (fact) => (fact === 'venue' ? ['Saltmarch Exchange'] : []),
});
const read = (text: string) => readTypedLine(store, engine, text);

describe('a line that is typed, with what this pool knows', () => {
  it('knows TLDs, venues, tags, sources and the person’s currency', async () => {
    const tag = tagNamed(store, 'later');
    const source = addSource(store, 'list', 'Saltmarch drops', {});
    changeSettings(store, { currency: 'GBP' });
    const { parts, unknown } = await read(
      'co.uk at Saltmarch Exchange tagged later, found in Saltmarch drops, under £50',
    );
    expect(unknown).toEqual([]);
    expect(parts.map(({ part }) => part)).toMatchObject([
      { fact: 'ending', values: ['co.uk'] },
      { fact: 'venue', values: ['Saltmarch Exchange'] },
      { fact: 'tag', values: [tag] },
      { fact: 'source', values: [source] },
      { fact: 'price', max: 50 },
    ]);
    expect((await read('under 50 EUR')).unknown[0].reason).toContain('GBP');
  });

  it('takes no TLD for one that no registry hands out', async () => {
    expect((await read('.zzzz')).unknown).toMatchObject([{ text: '.zzzz' }]);
    expect((await read('.github.io')).parts).toEqual([]);
  });

  it('offers what is near to what is not known, and how the line may go on', async () => {
    const { unknown, completions } = await read('avalable, ref');
    expect(unknown[0]).toMatchObject({ text: 'avalable', instead: ['available'] });
    expect(completions[0]).toEqual({ words: 'referring domains', text: 'avalable, referring domains' });
  });
});
