import type { JobView } from '../types';

/** One link of a page that is looked at, as far as it is known. */
export interface CheckedLink {
  url: string;
  anchor: string;
  nofollow: boolean;
  before: string;
  after: string;
  domain: string | null;
  state: 'waiting' | 'working' | 'redirected' | 'dead' | 'refused' | 'unsure';
  gone: 'page' | 'domain' | null;
  status: number | null;
  detail: string;
  /** Times it was asked. */
  asked: number;
  phase: string | null;
  known: { toPage: number; toDomain: number } | null;
}

export interface PageCheckView {
  job: JobView;
  /** null: the page has not been read yet, or could not be. */
  head: { url: string; title: string; contact: string | null; readers: number | null; inside: number } | null;
  links: CheckedLink[];
}
