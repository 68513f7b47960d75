import { beforeEach, expect, it, vi } from 'vitest';
import { parseView } from '../../core/pool/conditions';
import { rowsOfColumns } from '../../core/pool/row-columns';
import { said } from '../testing';
import { copyRows } from './copy-rows';

const NAMES = ['tarnhives.org', 'fellgatecombs.net', 'pellgatehives.org'];
const ROWS = rowsOfColumns({ id: [7, 8, 9], name: NAMES, fields: { length: [9, 13, 12] } });
/** What was asked for as a file. */
let forms: FormData[];
let copied: string[];

beforeEach(() => {
  forms = [];
  copied = [];
  vi.spyOn(navigator.clipboard, 'writeText').mockImplementation(async (text) => {
    copied.push(text);
  });
});

const copy = (columns: string, loaded = ROWS.length, answer = new Response('')) => {
  vi.stubGlobal('fetch', async (_path: string, { body }: { body: FormData }) => {
    forms.push(body);
    return answer;
  });
  const address = `c=length%3A4..&columns=1%7C${columns}`;
  return copyRows({
    view: parseView(new URLSearchParams(address)),
    address,
    selection: { all: true, except: new Set([8]) },
    selected: 2,
    total: ROWS.length,
    rowAt: (index) => (index < loaded ? ROWS[index] : undefined),
    now: 0,
  });
};

it('copies selected rows as they are shown', async () => {
  await copy('domain,length');
  expect(copied).toEqual(['tarnhives.org\t9\npellgatehives.org\t12']);
  expect(said.map(({ words }) => words)).toEqual(['2 rows copied']);
  expect(forms).toEqual([]);
});

it.each([
  ['a column says what the row has not', 'domain,fit,length', ROWS.length],
  ['not all rows are there', 'domain,length', 1],
])('copies from the file where %s, with the same columns and without heads', async (_, columns, loaded) => {
  await copy(columns, loaded, new Response('heads\there\r\ntarnhives.org\t62\r\npellgatehives.org\t\r\n'));
  expect(copied).toEqual(['tarnhives.org\t62\npellgatehives.org\t']);
  expect(forms.map((form) => Object.fromEntries(form))).toEqual([
    {
      format: 'tsv',
      columns: `0|${columns}`,
      which: JSON.stringify({ view: `c=length%3A4..&columns=1%7C${columns}`, except: [8] }),
    },
  ]);
});

it('says that nothing was copied where the file does not come', async () => {
  await copy('domain,worth', ROWS.length, new Response('', { status: 503 }));
  expect(copied).toEqual([]);
  expect(said.map(({ words }) => words)).toEqual(['Not copied: the rows could not be read']);
});
