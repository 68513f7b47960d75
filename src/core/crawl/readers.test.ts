import { describe, expect, it } from 'vitest';
import { markContent } from './content';
import { linkContext, readPage } from './links';
import { readersInJson } from './readers';

const counter = (type: unknown, count: unknown) => ({
  '@type': 'InteractionCounter',
  interactionType: type,
  userInteractionCount: count,
});

describe('readersInJson', () => {
  it('reads counters of views, however they name the action and wherever they stand', () => {
    const page = (value: unknown) => JSON.stringify({ '@graph': [{ mainEntity: { interactionStatistic: value } }] });
    expect(readersInJson(page(counter('https://schema.org/WatchAction', 5647)))).toBe(5647);
    expect(readersInJson(page(counter({ '@type': 'ViewAction' }, '12')))).toBe(12);
    expect(
      readersInJson(page([counter('http://schema.org/ReadAction', 3), counter('http://schema.org/ReadAction', 9)])),
    ).toBe(9);
  });
  it('counts no likes, no rubbish, and nothing negative', () => {
    expect(readersInJson(JSON.stringify(counter('https://schema.org/LikeAction', 7)))).toBeNull();
    expect(readersInJson(JSON.stringify(counter('https://schema.org/ViewAction', -7)))).toBeNull();
    expect(readersInJson(JSON.stringify(counter('https://schema.org/ViewAction', 'many')))).toBeNull();
    expect(readersInJson('{broken')).toBeNull();
  });
});

describe('readPage', () => {
  const at = 'http://pellgate.org/q/1';
  it('keeps the readers that markup claims, in each of its forms', () => {
    const json = `<script type="application/ld+json">${JSON.stringify(counter('https://schema.org/ViewAction', 41))}</script>`;
    expect(readPage(json, at).readers).toBe(41);
    const micro =
      '<div itemprop=interactionStatistic itemscope><link itemprop=interactionType href="https://schema.org/WatchAction"><meta itemprop=userInteractionCount content="1,204"></div>';
    expect(readPage(micro, at).readers).toBe(1204);
    expect(readPage('<meta itemprop=interactionCount content="UserPageVisits:88">', at).readers).toBe(88);
    expect(readPage(micro.replace('WatchAction', 'LikeAction'), at).readers).toBeNull();
  });
  it('finds how to reach whoever runs the site', () => {
    expect(readPage('<a href="/kontakt.html">Kontakt</a>', at).contact).toBe('http://pellgate.org/kontakt.html');
    expect(readPage('<a href="mailto:bees@pellgate.org?subject=x">write</a>', at).contact).toBe(
      'mailto:bees@pellgate.org',
    );
    expect(readPage('<a href="/">home</a>', at).contact).toBeNull();
  });
  it('follows a quick refresh only', () => {
    expect(readPage('<meta http-equiv=refresh content="0; url=/new">', at).refresh).toBe('http://pellgate.org/new');
    expect(readPage('<meta http-equiv=refresh content="600">', at).refresh).toBeNull();
  });
  it('parts words of different blocks, and gives the words around a link', () => {
    const page = readPage(
      '<ul><li>Feeding</li><li>Swarms: ask the <a href="http://b.org/">bee club</a> at Ossenmere&amp;c.</li></ul>',
      at,
    );
    expect(page.visible).toMatch(/Feeding\s+Swarms/);
    expect(page.mark).toEqual(markContent(page.visible));
    expect(linkContext(page.visible, page.links[0])).toEqual({
      before: 'Feeding Swarms: ask the',
      after: 'at Ossenmere&c.',
    });
  });
});
