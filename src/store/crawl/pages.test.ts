import { beforeEach, describe, expect, it } from 'vitest';
import type { Store } from '../base/database';
import { freshStore } from '../base/testing';
import { findDomain, sightingsOf } from '../domains/domains';
import { rememberColumns, rememberedColumns } from '../sources/mappings';
import { listSources } from '../sources/sources';
import {
  deadTargets,
  handSource,
  knownLinks,
  type LookedLink,
  linkingPages,
  putDeadTargets,
  putPageLook,
} from './pages';

let store: Store;
beforeEach(async () => {
  store = await freshStore();
});

const link = (url: string, more: Partial<LookedLink & { detail: string }> = {}): LookedLink & { detail: string } => ({
  url,
  anchor: 'words',
  nofollow: false,
  before: 'before',
  after: 'after',
  domain: new URL(url).host,
  state: 'working',
  gone: null,
  status: 200,
  detail: 'the server answered',
  ...more,
});
const dead = (url: string) =>
  link(url, { state: 'dead', gone: 'page', status: 404, detail: 'the server answered 404' });
function look(page: string, links: ReturnType<typeof link>[], contact: string | null = null): number[] {
  const ids = putPageLook(
    store,
    handSource(store),
    { url: page, title: `Title of ${page}`, contact, readers: null },
    links,
  );
  putDeadTargets(store, links);
  return ids;
}

describe('pages looked at by hand', () => {
  it('belong to one source, and only names without an answer go to the pool', () => {
    const gone = link('http://lapsed.org/', { state: 'dead', gone: 'domain', status: null });
    const ids = look('http://lists.org/', [link('http://lives.org/'), gone, dead('http://lives.org/old')]);
    look('http://lists.org/', [gone]);
    expect(listSources(store)).toMatchObject([
      { kind: 'page', name: 'Pages looked at', rows_read: 2, rows_taken: 1, domains_new: 1 },
    ]);
    expect(ids).toEqual([findDomain(store, 'lapsed.org')?.id]);
    expect(findDomain(store, 'lives.org')).toMatchObject({ in_pool: 0 });
    expect(sightingsOf(store, ids[0])[0].said).toMatchObject({
      url: 'http://lists.org/',
      anchor: 'words',
      before: 'before',
    });
  });

  it('keep dead targets by how many domains link there, with title, words and contact', () => {
    look(
      'http://a-lists.org/1',
      [dead('http://lives.org/old'), dead('http://lives.org/older')],
      'mailto:who@a-lists.org',
    );
    look('http://a-lists.org/2', [dead('http://lives.org/old')]);
    look('http://b-lists.org/', [dead('http://lives.org/old')]);
    expect(deadTargets(store).map(({ url, pages, domains, status }) => [url, pages, domains, status])).toEqual([
      ['http://lives.org/old', 3, 2, 404],
      ['http://lives.org/older', 1, 1, 404],
    ]);
    const rows = linkingPages(store, 'http://lives.org/old');
    expect(rows.map(({ page }) => page)).toEqual([
      'http://a-lists.org/1',
      'http://a-lists.org/2',
      'http://b-lists.org/',
    ]);
    expect(rows[0]).toMatchObject({
      anchor: 'words',
      contact: 'mailto:who@a-lists.org',
      title: 'Title of http://a-lists.org/1',
    });
    expect(deadTargets(store).flatMap(({ url }) => linkingPages(store, url))).toHaveLength(4);
    expect(knownLinks(store, 'http://lives.org/old', 'lives.org')).toEqual({ toPage: 3, toDomain: 3 });
    expect(knownLinks(store, 'http://x.org/', 'never.org')).toEqual({ toPage: 0, toDomain: 0 });
  });

  it('stand with the links they show now, not with those they showed before', () => {
    look('http://lists.org/', [link('http://one.org/'), link('http://two.org/')]);
    look('http://lists.org/', [link('http://three.org/')]);
    expect(
      ['one', 'two', 'three'].map((name) => knownLinks(store, `http://${name}.org/`, `${name}.org`).toPage),
    ).toEqual([0, 0, 1]);
  });

  it('forget a dead target that answers again, or whose domain is gone, and keep one that only refused us', () => {
    look('http://lists.org/', [dead('http://lives.org/a'), dead('http://lives.org/b'), dead('http://lives.org/c')]);
    look('http://lists.org/', [
      link('http://lives.org/a'),
      link('http://lives.org/b', { state: 'dead', gone: 'domain', status: null }),
      link('http://lives.org/c', { state: 'refused', status: 403 }),
    ]);
    expect(deadTargets(store).map(({ url }) => url)).toEqual(['http://lives.org/c']);
  });
});

describe('mappings', () => {
  it('are kept by header, the last one counts', () => {
    expect(rememberedColumns(store, 'a|b')).toBeNull();
    rememberColumns(store, 'a|b', 'referrers', ['domain', 'ignore']);
    rememberColumns(store, 'a|b', 'referrers', ['ignore', 'domain']);
    expect(rememberedColumns(store, 'a|b')).toEqual(['ignore', 'domain']);
  });
});
