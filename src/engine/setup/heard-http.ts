import { NetError, type NetErrorCode } from '../../net/errors';
import { type GetOptions, type HttpAnswer, HttpClient } from '../../net/http';

const KEPT_CHARACTERS = 1500;
const KEPT_ANSWERS = 4;

/** An HTTP client that remembers what came back, as it came. */
export class HeardHttp extends HttpClient {
  private readonly answers: string[] = [];
  /** Status of the last answer; 0: none came. */
  status = 0;
  /** Why the last question had no answer; null: it had one. */
  failed: NetErrorCode | null = null;

  override async get(address: string, options: GetOptions = {}): Promise<HttpAnswer> {
    try {
      const answer = await super.get(address, options);
      this.status = answer.status;
      this.failed = null;
      const type = answer.headers['content-type'] ?? 'no content type';
      const text = answer.body.subarray(0, 4 * KEPT_CHARACTERS).toString('utf8');
      this.answers.push(
        `${options.method ?? 'GET'} ${address}\nHTTP ${answer.status}, ${type}\n\n${cut(text, KEPT_CHARACTERS)}`.trim(),
      );
      return answer;
    } catch (error) {
      if (error instanceof NetError) this.failed = error.code;
      throw error;
    }
  }

  /** All that came, the first answers only where there were many. */
  get heard(): string {
    const more = this.answers.length - KEPT_ANSWERS;
    return [...this.answers.slice(0, KEPT_ANSWERS), ...(more > 0 ? [`and ${more} more`] : [])].join('\n\n');
  }
}

/** A text cut after so many characters, with a sign that it goes on. */
export const cut = (text: string, most: number): string => (text.length > most ? `${text.slice(0, most)} …` : text);
