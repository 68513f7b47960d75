import { fireEvent, render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { Answer } from '../../contracts/calls';
import { answering, asked, problem, said } from '../testing';
import { RedirectsScreen } from './redirects-screen';

type Plan = Answer<'GET /domains/{name}/redirects'>;
const OWN = ['https://ours.org/queens', 'https://ours.org/honey'];
const old = (path: string, weight: number) => ({ path, weight, domains: 2, anchors: ['bees'], title: null });
const candidates = OWN.map((url, n) => ({ url, confidence: 0.9 - n / 5, reasons: [] }));
const PLAN = {
  proposals: [
    { old: old('/queens', 2), candidates },
    { old: old('/honey', 1.5), candidates: [candidates[1]] },
    { old: old('/gone', 0.4), candidates: [] },
  ],
  rules: [], patterns: [], problems: [], carried: { all: 4, moved: 0, relevant: 0 }, sources: [], mentions: [],
} as unknown as Plan; // biome-ignore format: one plan
const show = (part: Partial<Plan> = {}) => render(<RedirectsScreen name="tarnhives.org" plan={{ ...PLAN, ...part }} />);
const serve = () =>
  answering(({ body }) => ({
    before: (body as { rules: { from: string }[] }).rules?.map(({ from }) => ({ from })) ?? [],
    problems: [],
  }));
const key = (name: string) => fireEvent.keyDown(window, { key: name });
const sent = () => asked.flatMap(({ body }) => (body as { rules: object[] }).rules);
const standing = () => screen.getAllByRole('row').findIndex((row) => row.getAttribute('aria-current') === 'true') - 1;

describe('where old addresses move', () => {
  it('is decided by keys, one after the other', async () => {
    serve();
    show();
    key('y');
    await expect.poll(sent).toEqual([{ from: '/queens', to: OWN[0] }]);
    expect(standing()).toBe(1);
    key('1');
    await expect.poll(() => sent().length).toBe(2);
    key('g');
    await expect.poll(() => sent().slice(1)).toEqual([{ from: '/honey', to: OWN[1] }, { from: '/gone', to: null }]); // biome-ignore format: a rule a cell
    // the last stays the last
    expect(standing()).toBe(2);
    key('k');
    expect(standing()).toBe(1);
    key('j');
    expect(standing()).toBe(2);
  });

  it('does nothing where a number has no page, and takes back what was done', async () => {
    serve();
    show();
    key('4');
    expect(asked).toEqual([]);
    key('2');
    await expect.poll(sent).toEqual([{ from: '/queens', to: OWN[1] }]);
    await expect
      .poll(() => {
        key('u');
        return sent().length;
      })
      .toBe(2);
    expect(sent()[1]).toEqual({ from: '/queens' });
  });

  it('is typed where no page is alike, and typing is no deciding', async () => {
    serve();
    show();
    await userEvent.click(screen.getByText('/gone'));
    expect(screen.getByText(/No own page is like it/)).toBeTruthy();
    key('e');
    const field = screen.getByLabelText('Where it moves');
    await userEvent.type(field, 'https://ours.org/yg');
    expect(asked).toEqual([]);
    await userEvent.click(screen.getByRole('button', { name: 'Move there' }));
    await expect.poll(sent).toEqual([{ from: '/gone', to: 'https://ours.org/yg' }]);
    expect(screen.queryByLabelText('Where it moves')).toBeNull();
  });

  it('is accepted for many that move alike at once', async () => {
    serve();
    show({
      patterns: [
        { fromPrefix: '/blog/', toPrefix: 'https://ours.org/news/', paths: ['/blog/a', '/blog/b'] },
      ] as Plan['patterns'],
    });
    await userEvent.click(screen.getByRole('button', { name: 'accept all of them' }));
    await expect.poll(sent).toEqual([
      { from: '/blog/a', to: 'https://ours.org/news/a' },
      { from: '/blog/b', to: 'https://ours.org/news/b' },
    ]);
  });

  it('says what it carries, and why rules cannot be followed', () => {
    show({
      carried: { all: 4, moved: 3, relevant: 1 } as Plan['carried'],
      rules: [{ from: '/queens', to: OWN[0] }, { from: '/gone', to: null }],
      problems: [{ kind: 'loop', by: ['/a', '/b'] }, { kind: 'collision', from: '/c' }] as Plan['problems'],
    }); // biome-ignore format: one plan
    expect(screen.getByText('75%')).toBeTruthy();
    expect(screen.getByRole('alert').textContent).toContain('/a to /b leads back to itself; /c has two rules');
    const row = within(screen.getByRole('row', { name: /\/gone/ }));
    expect(row.getByText('gone')).toBeTruthy();
    expect(screen.getByRole('link', { name: 'Rules as nginx' }).getAttribute('href')).toContain('format=nginx');
  });
});

describe('own pages', () => {
  it('come from a file or from what a crawl has read, and say what was not understood', async () => {
    answering(() => ({ taken: 12, setAside: 3 }));
    show();
    await userEvent.upload(
      screen.getByLabelText('Take a sitemap, a table or a list'),
      new File(['x'], 'sitemap.xml', { type: 'text/xml' }),
    );
    await expect.poll(() => said[0]?.words).toBe('12 own pages taken, 3 rejected');
    expect(asked[0].path).toBe('/own-pages?name=sitemap.xml');
    await userEvent.type(screen.getByLabelText('A site of yours that was crawled'), 'ours.org');
    await userEvent.click(screen.getByRole('button', { name: 'Take them' }));
    await expect.poll(() => asked[1]?.path).toBe('/own-pages?site=ours.org');
  });

  it('that cannot be read are told', async () => {
    answering(() => problem('That is an index of sitemaps.'));
    show();
    await userEvent.upload(
      screen.getByLabelText('Take a sitemap, a table or a list'),
      new File(['x'], 'a.xml', { type: 'text/xml' }),
    );
    await expect.poll(() => said.map(({ words }) => words)).toEqual(['That is an index of sitemaps.']);
  });

  it('are held against the log of a server', async () => {
    answering(() => ({ lines: 9, setAside: 1, robots: 2, moved: 4, gone: 2 }));
    show();
    await userEvent.upload(
      screen.getByLabelText(/take the access log/),
      new File(['x'], 'access.log', { type: 'text/plain' }),
    );
    await expect
      .poll(() => said[0]?.words)
      .toBe('4 visits sent on, 2 told gone; 2 of programs and 1 other lines left out');
    expect(asked[0].path).toBe('/domains/tarnhives.org/redirects/log?name=access.log');
  });
});
