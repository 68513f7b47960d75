/** What became of one link of a page. */
export interface LinkVerdict {
  url: string;
  anchor: string;
  nofollow: boolean;
  before: string;
  after: string;
  domain: string | null;
  /** unsure: it gave no answer, or one that may pass; dead only by a 404 or 410 twice, or a name that the servers of its ending deny. */
  state: 'waiting' | 'working' | 'redirected' | 'dead' | 'refused' | 'unsure';
  /** Of a dead link: whether the domain is gone, or only the page. */
  gone: 'page' | 'domain' | null;
  status: number | null;
  /** What the server said, or why there was no answer. */
  detail: string;
  /** Times it was asked. */
  asked: number;
}

/** The page itself. */
export interface PageHead {
  url: string;
  title: string;
  contact: string | null;
  readers: number | null;
  /** Links inside the site, which are not looked at. */
  inside: number;
}

/** What is kept of a look at a page, row by row: the page, then each of its links. */
export type PageRow = { head: PageHead } | { link: LinkVerdict };
