/** An item may be so long; what is longer is no row of a list. */
const MOST_ITEM_CHARS = 4 << 20;
const MOST_DEPTH = 64;

const QUOTE = 34;
const COMMA = 44;
const OPEN_ARRAY = 91;
const BACKSLASH = 92;
const CLOSE_ARRAY = 93;
const OPEN_OBJECT = 123;
const CLOSE_OBJECT = 125;

/**
 * Cuts arrays of a document of JSON (RFC 8259) into their items, without holding more than one: arrays at its root, or within objects only.
 * Chunks may end anywhere. That an item is JSON is left to whoever parses it.
 */
export class JsonItems {
  /** What stands around the place at hand: keys of objects, `null` for arrays. */
  private readonly within: (string | null)[] = [];
  private inText = false;
  private isEscaped = false;
  /** The text at hand, while it may be a key. */
  private text: string | null = null;
  private lastText = '';
  private chunk = '';
  /** Where the item at hand begins in the chunk, and what of it stood in those before; depth 0: none is at hand. */
  private start = 0;
  private before = '';
  private itemDepth = 0;
  private path = '';

  /**
   * @param onItem told the path of the array (keys with points between; empty for the root) and the item as it stands.
   * @throws Error from `write` where an item is longer than any row, or the document is deeper than any list.
   */
  constructor(private readonly onItem: (path: string, item: string) => void) {}

  write(chunk: string): void {
    this.chunk = chunk;
    this.start = 0;
    for (let at = 0; at < chunk.length; at++) this.take(chunk.charCodeAt(at), at);
    if (this.itemDepth > 0) this.hold(chunk.slice(this.start));
  }

  private take(code: number, at: number): void {
    if (this.inText) {
      if (this.isEscaped) this.isEscaped = false;
      else if (code === BACKSLASH) this.isEscaped = true;
      else if (code === QUOTE) {
        this.inText = false;
        if (this.text !== null) this.lastText = this.text;
        this.text = null;
        return;
      }
      if (this.text !== null && this.text.length < 200) this.text += this.chunk[at];
      return;
    }
    if (code === QUOTE) {
      this.inText = true;
      // within an item no key is of interest
      if (this.itemDepth === 0) this.text = '';
    } else if (code === OPEN_ARRAY || code === OPEN_OBJECT) this.open(code, at);
    else if (code === CLOSE_ARRAY || code === CLOSE_OBJECT) this.close(at);
    else if (code === COMMA && this.itemDepth === this.within.length) this.endItem(at);
  }

  private open(code: number, at: number): void {
    if (this.within.length >= MOST_DEPTH) throw new Error('it is nested deeper than a list is');
    const isArray = code === OPEN_ARRAY;
    const isRoot = this.within.length === 0;
    if (this.itemDepth === 0 && isArray) {
      // the root itself, or what an object has under a key
      const keys = isRoot ? [] : [...this.within.slice(1), this.lastText];
      if (!keys.includes(null)) this.path = keys.join('.');
      this.within.push(null);
      this.itemDepth = this.within.length;
      this.start = at + 1;
      this.before = '';
      return;
    }
    this.within.push(isArray ? null : isRoot ? '' : this.lastText);
  }

  private close(at: number): void {
    if (this.itemDepth > 0 && this.itemDepth === this.within.length) {
      this.endItem(at);
      this.itemDepth = 0;
    }
    this.within.pop();
  }

  private endItem(at: number): void {
    const item = (this.before + this.chunk.slice(this.start, at)).trim();
    this.before = '';
    this.start = at + 1;
    if (item !== '') this.onItem(this.path, item);
  }

  private hold(part: string): void {
    this.before += part;
    if (this.before.length > MOST_ITEM_CHARS) throw new Error('one of its entries is longer than any row of a list');
  }
}
