import { XMLParser } from 'fast-xml-parser';
import { CsvReader } from '../formats/csv';
import { sniffDelimiter } from '../formats/list-columns';
import type { AnswerFormat } from './connection';
import { htmlAnswer } from './html-answer';
import type { ReadAnswer } from './read-answer';
import { AnswerFault, reach, type Tree, textAt, within } from './tree';

const MOST_ROWS = 200_000;

/**
 * Reads an answer by how it is written.
 *
 * @param entries where its entries stand, as a description says (Description.entries). @param base its address: what relative addresses in
 * HTML go by. @throws AnswerFault when it is not what it should be.
 */
export function readAnswer(text: string, format: AnswerFormat, entries: string, base: string): ReadAnswer {
  if (format === 'html') return htmlAnswer(text, entries, base);
  if (format === 'feed') return ofTree(feedEntries(xmlTree(text)), '');
  const tree = treeOf(text, format);
  return ofTree(tree, entries);
}

function ofTree(tree: Tree, at: string): ReadAnswer {
  const found = entriesOf(tree, at);
  return {
    count: found.length,
    text: (entry, place) => (place === '#' ? found[entry].name : textAt(found[entry].value, place)),
    whole: (place) => textAt(tree, place),
    tree,
  };
}

/** The tree of an answer in JSON, XML or CSV, whose rows are objects by the titles of its columns. */
export function treeOf(text: string, format: 'json' | 'xml' | 'csv'): Tree {
  if (format === 'xml') return xmlTree(text);
  if (format === 'csv') return csvTree(text);
  try {
    return JSON.parse(text.replace(/^\ufeff/, '')) as Tree;
  } catch {
    throw new AnswerFault(text.trim() === '' ? 'the answer is empty' : 'the answer is no JSON');
  }
}

const xml = new XMLParser({
  ignoreAttributes: false,
  attributeNamePrefix: '@',
  processEntities: true,
  parseTagValue: false,
  parseAttributeValue: false,
  removeNSPrefix: true,
  trimValues: true,
  ignoreDeclaration: true,
});

function xmlTree(text: string): Tree {
  if (
    !text
      .trimStart()
      .replace(/^\ufeff/, '')
      .startsWith('<')
  )
    throw new AnswerFault('the answer is no XML');
  try {
    return xml.parse(text) as Tree;
  } catch (error) {
    throw new AnswerFault(`the answer is no XML: ${(error as Error).message}`);
  }
}

function csvTree(text: string): Tree {
  const rows: string[][] = [];
  let problem: string | null = null;
  const reader = new CsvReader(
    ({ fields }) => {
      if (rows.length <= MOST_ROWS && fields.some((field) => field !== '')) rows.push(fields);
    },
    ({ line, reason }) => {
      problem ??= `line ${line}: ${reason}`;
    },
    { delimiter: sniffDelimiter(text.slice(0, 64 * 1024)), maxRowChars: 256 * 1024 },
  );
  reader.write(text);
  reader.end();
  if (problem !== null && rows.length < 2) throw new AnswerFault(`the answer is no table: ${problem}`);
  const [titles = [], ...body] = rows;
  const names = titles.map((title, n) => title.trim() || `column ${n + 1}`);
  return body.map((fields) => Object.fromEntries(names.map((name, n) => [name, (fields[n] ?? '').trim()])));
}

/** What an entry is called where its members are named, and what it holds. */
interface Entry {
  name: string;
  value: Tree;
}

function entriesOf(tree: Tree, at: string): Entry[] {
  const isEach = at.endsWith('/*');
  const found = reach(tree, isEach ? at.slice(0, -2) : at);
  if (found === undefined || found === null || found === '') return [];
  if (Array.isArray(found)) return found.map((value, n) => ({ name: String(n), value }));
  if (isEach && typeof found === 'object') return Object.entries(found).map(([name, value]) => ({ name, value }));
  return [{ name: at.slice(at.lastIndexOf('/') + 1), value: found }];
}

/** The entries of Atom (RFC 4287), RSS 2.0 and 1.0 as one kind: url, title, summary. */
function feedEntries(tree: Tree): Tree {
  const atom = reach(tree, '/feed');
  if (atom !== undefined)
    return listOf(within(atom, 'entry')).map((entry) => {
      const links = listOf(within(entry, 'link'));
      const link = links.find((one) => (textAt(one, '/@rel') || 'alternate') === 'alternate');
      const summary = textAt(entry, '/summary') || textAt(entry, '/content');
      return { url: link === undefined ? '' : textAt(link, '/@href'), title: textAt(entry, '/title'), summary };
    });
  const channel = reach(tree, '/rss/channel') ?? reach(tree, '/RDF');
  if (channel === undefined) throw new AnswerFault('the answer is no feed, neither Atom nor RSS');
  return listOf(within(channel, 'item')).map((item) => ({
    url: textAt(item, '/link') || textAt(item, '/@about'),
    title: textAt(item, '/title'),
    summary: textAt(item, '/description'),
  }));
}

const listOf = (value: Tree | undefined): Tree[] =>
  value === undefined || value === null || value === '' ? [] : Array.isArray(value) ? value : [value];
