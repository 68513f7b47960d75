import { decodeHTML } from 'entities';
import { scanHtml } from '../crawl/html';
import { plainText } from '../formats/plain-text';

/** What a piece of a page is, in the order in which it stands there. */
export type BlockKind = 'heading' | 'text' | 'item' | 'cell' | 'link' | 'image' | 'form' | 'frame';

/** A piece of a page as it can be shown without its markup. */
export interface PageBlock {
  kind: BlockKind;
  /** Of a heading 1 to 6, of an item how deep its list stands, else 0. */
  level: number;
  /** Plain text; of an image its description, of a form how many fields, of a frame where it leads. */
  text: string;
}

const MOST_BLOCKS = 400;
const MOST_CHARS = 24_000;
const BLOCK_CHARS = 2000;
/** Menus and rows of links are cut into their links, since a link with others beside it is one of a list. */
const WANTED = new Set([
  'a', 'h1', 'h2', 'h3', 'h4', 'h5', 'h6', 'li', 'ul', 'ol', 'td', 'th', 'img', 'form', 'input', 'select', 'textarea', 'button',
  'frame', 'iframe',
]); // biome-ignore format: a list
const HEADING = /^h[1-6]$/;
const FIELDS = new Set(['input', 'select', 'textarea', 'button']);

/**
 * The structure of a page as plain blocks: nothing of its markup, styles or scripts is kept, so that it can be shown and compared.
 * Broken markup gives what can be read of it; at most 400 blocks and 24,000 characters.
 */
export function outlinePage(html: string): PageBlock[] {
  const blocks: PageBlock[] = [];
  let chars = 0;
  let text = '';
  let linked = '';
  let isInLink = false;
  let kind: BlockKind = 'text';
  let level = 0;
  let lists = 0;
  let fields: number | null = null;
  const put = (block: PageBlock) => {
    if (blocks.length >= MOST_BLOCKS || chars >= MOST_CHARS) return;
    chars += block.text.length;
    blocks.push(block);
  };
  const flush = () => {
    const words = plainText(decodeHTML(text), BLOCK_CHARS);
    // text that is a link from end to end leads somewhere; what surrounds a link is text
    const isLink = kind === 'text' && linked.trim() !== '' && linked.trim() === text.trim();
    if (words !== '') put({ kind: isLink ? 'link' : kind, level, text: words });
    text = linked = '';
  };
  const become = (next: BlockKind, depth: number) => {
    flush();
    kind = next;
    level = depth;
  };
  const endForm = () => {
    if (fields !== null && fields > 0)
      put({ kind: 'form', level: 0, text: fields === 1 ? '1 field' : `${fields} fields` });
    fields = null;
  };
  scanHtml(html, {
    wanted: WANTED,
    open(name, attributes) {
      if (name === 'a') {
        // two links side by side are two lines
        if (kind === 'text' && linked !== '' && linked.trim() === text.trim()) flush();
        isInLink = true;
      } else if (HEADING.test(name)) become('heading', Number(name[1]));
      else if (name === 'li') become('item', Math.max(1, lists));
      else if (name === 'td' || name === 'th') become('cell', 0);
      else if (name === 'ul' || name === 'ol') {
        become('text', 0);
        lists++;
      } else if (name === 'img') {
        flush();
        put({ kind: 'image', level: 0, text: plainText(attributes.alt ?? '', 200) || 'not described' });
      } else if (name === 'form') {
        flush();
        endForm();
        fields = 0;
      } else if (FIELDS.has(name)) {
        if (attributes.type !== 'hidden') fields = (fields ?? 0) + 1;
      } else if (name === 'frame' || name === 'iframe') {
        flush();
        put({ kind: 'frame', level: 0, text: plainText(attributes.src ?? '', 200) || 'to nowhere' });
      }
    },
    close(name) {
      if (name === 'a') isInLink = false;
      else if (HEADING.test(name) || name === 'li' || name === 'td' || name === 'th') become('text', 0);
      else if (name === 'ul' || name === 'ol') {
        become('text', 0);
        lists = Math.max(0, lists - 1);
      } else if (name === 'form') {
        flush();
        endForm();
      }
    },
    text(start, end) {
      if (text.length > BLOCK_CHARS) return;
      const piece = html.slice(start, Math.min(end, start + BLOCK_CHARS));
      text += piece;
      if (isInLink) linked += piece;
    },
    gap() {
      if (kind === 'text') flush();
      else text += ' ';
    },
    raw() {
      // scripts, styles and the like are not shown; the title is kept beside
    },
  });
  flush();
  endForm();
  return blocks;
}
