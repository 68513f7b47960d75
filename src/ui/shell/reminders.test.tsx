import { render, waitFor } from '@testing-library/react';
import { afterEach, beforeEach, describe, expect, it, vi } from 'vitest';
import { answering, asked, said, sentTo } from '../testing';
import { Notifications, Reminders } from './reminders';

interface Shown {
  title: string;
  body: string;
  tag: string;
  onclick: (() => void) | null;
}
let shown: Shown[];

/** A browser that shows notifications, or was told not to. */
function browserThat(permission: NotificationPermission): void {
  vi.stubGlobal(
    'Notification',
    class {
      static permission = permission;
      onclick: (() => void) | null = null;
      title: string;
      body: string;
      tag: string;
      constructor(title: string, { body, tag }: { body: string; tag: string }) {
        this.title = title;
        this.body = body;
        this.tag = tag;
        shown.push(this);
      }
    },
  );
}
const news = (n: number) => ({ id: `n${n}`, domain: `tarnhives${n}.org`, words: 'was outbid', kind: 'orders', at: n });

beforeEach(() => {
  shown = [];
  localStorage.clear();
  browserThat('granted');
});
afterEach(() => vi.unstubAllGlobals());

describe('notifications of the browser', () => {
  it('tell nothing of what happened before anybody looked, and note from when on they do', async () => {
    answering(() => ({ now: 5000, news: [news(1)] }));
    render(<Notifications kinds={['orders', 'deadlines']} />);
    await waitFor(() => expect(localStorage.getItem('notified-until')).toBe('5000'));
    expect(shown).toEqual([]);
    expect(asked[0].path).toMatch(/kinds=orders(,|%2C)deadlines/);
  });

  it('show what is new in one, and lead to it', async () => {
    localStorage.setItem('notified-until', '4000');
    answering(() => ({ now: 5000, news: [news(1)] }));
    render(<Notifications kinds={['orders']} />);
    await waitFor(() => expect(shown).toHaveLength(1));
    expect(shown[0]).toMatchObject({ title: 'tarnhives1.org', body: 'was outbid', tag: 'n1' });
    expect(asked[0].path).toContain('since=4000');
  });

  it('say how many more there are, and show them once for all tabs', async () => {
    localStorage.setItem('notified-until', '4000');
    answering(() => ({ now: 5000, news: [news(1), news(2), news(3)] }));
    render(<Notifications kinds={['orders']} />);
    await waitFor(() => expect(shown).toHaveLength(1));
    expect(shown[0].body).toBe('was outbid And 2 more.');
    // another tab was given the same
    render(<Notifications kinds={['orders']} />);
    await waitFor(() => expect(asked.length).toBeGreaterThan(1));
    expect(shown).toHaveLength(1);
  });

  it('are not shown where the person did not allow it, and not asked for where no kind is chosen', async () => {
    browserThat('denied');
    localStorage.setItem('notified-until', '4000');
    answering(() => ({ now: 5000, news: [news(1)] }));
    render(<Notifications kinds={[]} />);
    expect(asked).toEqual([]);
    render(<Notifications kinds={['orders']} />);
    await waitFor(() => expect(localStorage.getItem('notified-until')).toBe('5000'));
    expect(shown).toEqual([]);
  });
});

describe('reminders of deadlines', () => {
  const deadline = {
    uid: 'closing tarnhives.org',
    at: 90_000,
    name: 'tarnhives.org',
    words: 'closes at Quayside Lots',
  };

  it('are given once each, and again where the deadline has moved', async () => {
    answering(() => ({ deadlines: [deadline] }));
    const { unmount } = render(<Reminders minutes={60} />);
    await waitFor(() => expect(said).toHaveLength(1));
    expect(said[0].words).toMatch(/^tarnhives\.org closes at Quayside Lots, /);
    said[0].undo?.();
    expect(sentTo).toEqual(['/domains/tarnhives.org']);
    unmount();
    // as after a reload
    render(<Reminders minutes={60} />);
    await waitFor(() => expect(asked.length).toBeGreaterThan(1));
    expect(said).toHaveLength(1);
    answering(() => ({ deadlines: [{ ...deadline, at: 120_000 }] }));
    render(<Reminders minutes={30} />);
    await waitFor(() => expect(said).toHaveLength(2));
  });

  it('are not asked for where none are wanted', () => {
    answering(() => ({ deadlines: [deadline] }));
    render(<Reminders minutes={0} />);
    expect(asked).toEqual([]);
  });
});
