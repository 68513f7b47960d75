import { render, screen, waitFor, within } from '@testing-library/react';
import userEvent from '@testing-library/user-event';
import { describe, expect, it } from 'vitest';
import { Settings } from '../../core/settings/settings';
import { setBy } from '../../core/setup/abilities';
import { abilityStates } from '../../core/setup/states';
import type { Tried } from '../../core/setup/tried';
import { answering, asked, problem, refreshed, said } from '../testing';
import { SetupScreen } from './setup-screen';

const settings = Settings.parse({ currency: 'EUR' });
const TRIED: Tried = {
  ability: 'history',
  at: 0,
  outcome: 'works',
  asked: 'Which captures are there?',
  came: 'HTTP 200',
  elapsedMs: 1234,
  understood: ['2 captures of tarnhives.org.'],
  problem: null,
  setBy: '',
};
const show = (given: Partial<Settings> = {}, tries = {}) => {
  const of = { ...settings, ...given };
  return render(
    <SetupScreen
      setup={{ purposes: of.purposes, abilities: abilityStates(of, { tries, quoted: [], gathered: [] }), tries }}
      settings={of}
      example={{ domain: 'tarnhives.org', words: 'honey' }}
      mode="real"
    />,
  );
};
const open = async (label: string) => {
  await userEvent.click(screen.getByRole('button', { name: `Set up ${label}` }));
  return within(screen.getByRole('form', { name: `Set up ${label}` }));
};
const sent = (path: string) => asked.find((one) => one.path === path);

describe('set-up', () => {
  it('says of every ability how it stands, why, and what it is for', () => {
    show({ purposes: ['told'] }, { dns: { ...TRIED, ability: 'dns', setBy: setBy('dns', settings) } });
    const row = (label: string) => screen.getByRole('rowheader', { name: label }).closest('tr')?.textContent;
    expect(row('DNS')).toMatch(/works.*2 captures of tarnhives\.org\./);
    expect(row('Search')).toMatch(/not set up.*OpenSearch/);
    expect(row('Mail')).toContain('For: be told what is new by mail');
  });

  it('keeps what somebody has and is after', async () => {
    answering(() => ({ act: 3 }));
    show({ purposes: ['list'] });
    await userEvent.click(screen.getByRole('checkbox', { name: /bid on names/ }));
    expect(sent('/settings')?.body).toEqual({ purposes: ['list', 'bid'] });
    // the page that knows of it has not come yet
    await userEvent.click(screen.getByRole('checkbox', { name: 'a list of names' }));
    await waitFor(() => expect(asked.at(-1)?.body).toEqual({ purposes: ['bid'] }));
    expect(screen.getByRole<HTMLInputElement>('checkbox', { name: /bid on names/ }).checked).toBe(true);
  });

  it('tries what is typed before it is kept, and shows what was understood and what came', async () => {
    answering(() => TRIED);
    show();
    const form = await open('History');
    await userEvent.type(form.getByLabelText(/^Archive/), 'http://archive.test/{{url}');
    await userEvent.click(form.getByRole('button', { name: /Try it/ }));
    expect(await screen.findByText('2 captures of tarnhives.org.')).toBeTruthy();
    expect(screen.getByText(/1,234 ms/)).toBeTruthy();
    expect(screen.getByText('HTTP 200')).toBeTruthy();
    expect(sent('/setup/try')?.body).toEqual({
      ability: 'history',
      settings: { archiveTimeMap: 'http://archive.test/{url}', archiveCapture: '', warcPath: '', allowedPrivate: [] },
      question: 'tarnhives.org',
    });
    // nothing was kept by it
    expect(asked.filter(({ method }) => method === 'PATCH')).toEqual([]);
    expect(refreshed.times).toBe(1);
    await userEvent.click(form.getByRole('button', { name: /Keep these settings/ }));
    await waitFor(() => expect(sent('/settings')?.body).toMatchObject({ archiveTimeMap: 'http://archive.test/{url}' }));
  });

  it('fills in a public archive when it is asked to, and asks nobody by that', async () => {
    answering(() => ({}));
    show();
    const form = await open('History');
    await userEvent.click(form.getByRole('button', { name: /public one/ }));
    expect(form.getByLabelText<HTMLInputElement>(/^Archive/).value).toContain('{url}');
    expect(asked).toEqual([]);
  });

  it('says a problem at the field that it can be put right by', async () => {
    answering(() => ({
      ...TRIED,
      outcome: 'refused',
      understood: [],
      problem: { field: 'allowedPrivate', words: '127.0.0.1 is a private address; allow it in the settings.' },
    }));
    show();
    const form = await open('History');
    await userEvent.click(form.getByRole('button', { name: /Try it/ }));
    const field = form.getByLabelText(/^Private addresses/);
    await waitFor(() => expect(field.getAttribute('aria-invalid')).toBe('true'));
    expect(document.activeElement).toBe(field);
    expect(screen.getByText('It was refused.')).toBeTruthy();
  });

  it('keeps what was typed when the question makes no sense', async () => {
    answering(() => problem('“hives” is no domain that can be registered.'));
    show();
    const form = await open('DNS');
    await userEvent.clear(form.getByLabelText(/^Domain to ask about/));
    await userEvent.type(form.getByLabelText(/^Domain to ask about/), 'hives');
    await userEvent.click(form.getByRole('button', { name: /Try it/ }));
    await waitFor(() => expect(said.at(-1)?.words).toContain('no domain'));
    expect(form.getByLabelText<HTMLInputElement>(/^Domain to ask about/).value).toBe('hives');
  });

  it('takes a table of rates, and says of which day it is', async () => {
    answering(() => ({ taken: 3, at: Date.UTC(2026, 10, 27), base: 'EUR', aside: [], act: 9 }));
    show({ ratesAt: null });
    await open('Currencies');
    expect(screen.getByText(/The rates have no date/)).toBeTruthy();
    const file = new File(['currency,rate'], 'rates.csv');
    await userEvent.upload(screen.getByLabelText('Bring in a table of rates'), file);
    await waitFor(() => expect(said.at(-1)?.words).toMatch(/^3 rates taken of .*counted over from EUR/));
    expect(sent('/rates')?.method).toBe('POST');
  });

  it('leads to where venues and link exports are brought in, and to describing one', async () => {
    show();
    await userEvent.click(screen.getByRole('button', { name: 'Set up Venues' }));
    expect(screen.getByRole('link', { name: 'Read a venue' }).getAttribute('href')).toBe('/sources?add=feed');
    expect(screen.getByRole('link', { name: 'Describe it' }).getAttribute('href')).toBe(
      '/setup/connections/new?use=listings',
    );
    await userEvent.click(screen.getByRole('button', { name: 'Set up Backlink data' }));
    expect(screen.getByRole('link', { name: 'Import a link export' }).getAttribute('href')).toBe('/sources?add=links');
  });
});
