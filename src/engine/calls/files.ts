import { setMaxListeners } from 'node:events';
import { readSettings } from '../../store/base/settings';
import { linksOf } from '../crawl/page-check';
import { importReferrers, previewReferrers } from '../files/referrers';
import { lookAtVenue } from '../files/venue-preview';
import { lookAtLinks, rememberLinks } from '../lists/cut-preview';
import { lookAtList, rememberList } from '../lists/preview';
import { type EngineParts, type Handlers, pageContext, taken } from './parts';

type FilePath =
  | '/lists/preview'
  | '/lists/import'
  | '/cuts/preview'
  | '/cuts/import'
  | '/venues/preview'
  | '/referrers/preview'
  | '/referrers/import'
  | '/pages/links';

const PAGE_CHECK_MS = 40_000;

/** Files that come in, and pages that are looked at while somebody waits. */
export const fileCalls = (parts: EngineParts): Handlers<FilePath> => {
  const { store } = parts;
  return {
    '/lists/preview': ({ path, given }) => lookAtList(store, path, given),
    '/lists/import': async ({ path, given }) => {
      const look = await lookAtList(store, path, given);
      if (given.columns) rememberList(store, look, given.columns);
      return look;
    },
    '/cuts/preview': ({ path, given }) => lookAtLinks(store, path, given),
    '/cuts/import': async ({ path, given }) => {
      const look = await lookAtLinks(store, path, given);
      if (given.columns) rememberLinks(store, look, given.columns);
      return look;
    },
    '/venues/preview': ({ url }) => lookAtVenue(store, readSettings(store), url),
    '/referrers/preview': ({ path, cuts, columns }) => previewReferrers(store, path, cuts, columns),
    '/referrers/import': (order) => importReferrers(store, order, (ids, source) => taken(parts, ids, source)),
    '/pages/links': ({ url }) => {
      const signal = AbortSignal.timeout(PAGE_CHECK_MS);
      setMaxListeners(0, signal); // one listener a request under way
      return linksOf(pageContext(parts, signal), url);
    },
  };
};
