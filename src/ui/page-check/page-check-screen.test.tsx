import { render, screen, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import type { CheckedLink, PageCheckView } from '../../contracts/page-check';
import { answering, asked, problem, sentTo } from '../testing';
import { PageCheckScreen } from './page-check-screen';

const link = (host: string, part: Partial<CheckedLink>): CheckedLink => ({
  url: `https://${host}/a`, anchor: 'bees', nofollow: false, before: '', after: '', domain: host, state: 'working', gone: null, status: 200,
  detail: 'status 200', asked: 1, phase: null, known: null, ...part,
}); // biome-ignore format: one link
const VIEW: PageCheckView = {
  job: { id: 4, kind: 'page', sourceId: null, state: 'done', progress: null, error: null, createdAt: 1, startedAt: 1, finishedAt: 2 },
  head: { url: 'https://quillmere.org/links', title: 'Links of the club', contact: 'mailto:mara@quillmere.org', readers: 1200, inside: 3 },
  links: [
    link('tarnhives.org', { state: 'dead', gone: 'domain', phase: 'free', detail: 'no such name', known: { toPage: 1, toDomain: 4 } }),
    link('wexcombe.org', { state: 'dead', gone: 'page', status: 404, detail: 'status 404' }),
    link('ossenmere.org', {}),
    link('saltmarsh.com', { state: 'dead', gone: 'domain' }),
  ],
}; // biome-ignore format: one view
const show = (view: PageCheckView | null, url = '') =>
  render(<PageCheckScreen url={url} origin="http://127.0.0.1:4310" view={view} />);

describe('one page that is looked at', () => {
  it('is asked for by its address, and the address keeps the look', async () => {
    answering(() => ({ job: VIEW.job }));
    show(null);
    await userEvent.type(screen.getByLabelText('Address of a page'), 'quillmere.org/links');
    await userEvent.click(screen.getByRole('button', { name: /^Look at its links/ }));
    expect(asked).toMatchObject([{ path: '/pages/check', body: { url: 'quillmere.org/links' } }]);
    await expect.poll(() => sentTo).toEqual(['/page?url=quillmere.org%2Flinks&check=4']);
  });

  it('waits for one key where another page handed its address over', () => {
    show(null, 'https://quillmere.org/links');
    expect(document.activeElement).toBe(screen.getByRole('button', { name: /^Look at its links/ }));
    expect(screen.getByLabelText<HTMLInputElement>('Bookmarklet').value).toContain('http://127.0.0.1:4310/page?url=');
  });

  it('says what is wrong with an address', async () => {
    answering(() => problem('That is no address of a page.'));
    show(null);
    await userEvent.type(screen.getByLabelText('Address of a page'), 'x');
    await userEvent.click(screen.getByRole('button', { name: /^Look at its links/ }));
    expect(await screen.findByText('That is no address of a page.')).toBeTruthy();
    expect(sentTo).toEqual([]);
  });

  it('shows its links by what came of them, the dead domains first, and only groups that hold some', () => {
    show(VIEW);
    expect(screen.getByRole('heading', { name: 'Links of the club' })).toBeTruthy();
    const groups = screen.getAllByRole('heading', { level: 3 }).map((one) => one.textContent);
    expect(groups).toEqual(['The whole domain is gone 2', 'The page is gone, the domain lives 1', 'Works 1']);
    const gone = within(screen.getByRole('region', { name: /whole domain/ }));
    expect(gone.getByText(/1 known page links to this address/)).toBeTruthy();
    expect(gone.getByRole('link', { name: 'tarnhives.org' }).parentElement?.textContent).toBe(
      'tarnhives.org: available',
    );
    expect(gone.getByRole('link', { name: 'saltmarsh.com' }).parentElement?.textContent).toContain(
      'its registry is being asked',
    );
    expect(screen.getByText(/3 links inside are not asked. The page claims 1,200 readers/)).toBeTruthy();
  });
});
