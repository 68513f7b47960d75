import { XMLParser } from 'fast-xml-parser';
import { NetError } from './errors';
import type { HttpClient } from './http';

export interface SearchResult {
  url: string;
  title: string;
  summary: string;
}

const MAX_ANSWER_BYTES = 4 * 1024 * 1024;

/**
 * Searches that describe themselves by OpenSearch 1.1 and answer with Atom (RFC 4287). The description is read once; of its
 * `Url` elements the first is taken that gives `application/atom+xml`.
 */
export class SearchClient {
  private readonly xml = new XMLParser({
    ignoreAttributes: false,
    attributeNamePrefix: '@',
    processEntities: true,
    parseTagValue: false,
    removeNSPrefix: true,
  });
  private template: string | null = null;

  /** @param description address of the OpenSearch description document. */
  constructor(
    private readonly http: HttpClient,
    private readonly description: string,
  ) {}

  /** @throws NetError when the search cannot be reached or answers with something else. */
  async search(phrase: string, count: number, signal?: AbortSignal): Promise<SearchResult[]> {
    this.template ??= await this.readTemplate(signal);
    const url = this.template
      .replace(/\{searchTerms\}/g, encodeURIComponent(phrase))
      .replace(/\{count\??\}/g, String(count))
      .replace(/\{startIndex\??\}|\{startPage\??\}/g, '1')
      .replace(/\{[a-zA-Z:]+\?\}/g, '');
    const feed = (await this.read(url, 'application/atom+xml', signal)).feed;
    if (typeof feed !== 'object' || feed === null)
      throw new NetError('bad-answer', 'The search answered with something that is no Atom feed');
    return list((feed as Record<string, unknown>).entry)
      .flatMap((entry): SearchResult[] => {
        const { link, title, summary } = entry as Record<string, unknown>;
        const href = list(link)
          .map((one) => one as Record<string, unknown>)
          .find((one) => (one['@rel'] ?? 'alternate') === 'alternate')?.['@href'];
        return typeof href === 'string' ? [{ url: href, title: textOf(title), summary: textOf(summary) }] : [];
      })
      .slice(0, count);
  }

  private async readTemplate(signal?: AbortSignal): Promise<string> {
    const document = await this.read(this.description, 'application/opensearchdescription+xml', signal);
    const root = document.OpenSearchDescription as Record<string, unknown> | undefined;
    const found = list(root?.Url)
      .map((url) => url as Record<string, unknown>)
      .find((url) => url['@type'] === 'application/atom+xml');
    const template = found?.['@template'];
    if (typeof template !== 'string' || !template.includes('{searchTerms}'))
      throw new NetError('bad-answer', 'The search does not describe an address that answers with Atom');
    return new URL(template, this.description).href.replace(/%7B/gi, '{').replace(/%7D/gi, '}');
  }

  private async read(url: string, accept: string, signal?: AbortSignal): Promise<Record<string, unknown>> {
    const answer = await this.http.get(url, { accept, signal, maxBodyBytes: MAX_ANSWER_BYTES });
    if (answer.status !== 200) throw new NetError('bad-answer', `The search answered ${answer.status}`);
    try {
      return this.xml.parse(answer.body.toString('utf8')) as Record<string, unknown>;
    } catch (error) {
      throw new NetError('bad-answer', 'The search answered with something that is no XML', { cause: error });
    }
  }
}

function list(value: unknown): unknown[] {
  return value === undefined || value === null ? [] : Array.isArray(value) ? value : [value];
}

function textOf(value: unknown): string {
  if (typeof value === 'string') return value.trim();
  if (typeof value === 'object' && value !== null && '#text' in value) return String(value['#text']).trim();
  return '';
}
