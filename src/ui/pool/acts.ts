'use client';

import { toast } from 'sonner';
import type { Judgement } from '../../core/pool/facts';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { wordFor } from './sentences';

/** What can be done to domains. */
export type Act =
  | { kind: 'judge'; judged: Judgement; reason?: string | null; until?: number | null }
  | { kind: 'tag' | 'untag'; tag: string }
  | { kind: 'shortlist' | 'unshortlist'; brief: number }
  | { kind: 'measure' | 'inspect' }
  | { kind: 'watch' | 'unwatch' };

interface Acted {
  action: number | null;
  changed: number;
}

export async function undo(actions: number[]): Promise<void> {
  for (const action of [...actions].reverse()) await call(`/actions/${action}/undo`, { method: 'POST' });
}

/**
 * Does it, says so, and offers to take it back.
 *
 * @param what which domains, as the HTTP interface names them; `name` when it is one.
 * @returns number of the action; null when nothing changed.
 */
export async function act(what: Act, which: object, name: string | null, onUndone: () => void): Promise<number | null> {
  const { action, changed } = await call<Acted>('/actions', { body: { act: what, which } });
  const who = changed === 1 && name ? name : `${count(changed)} ${changed === 1 ? 'domain' : 'domains'}`;
  if (changed === 0) toast('Nothing to change there');
  else
    toast(`${who}: ${wordsFor(what)}`, {
      action:
        action === null
          ? undefined
          : {
              label: 'Undo',
              onClick: () =>
                void undo([action])
                  .then(onUndone)
                  .catch((error: Error) => toast(error.message)),
            },
    });
  return changed === 0 ? null : action;
}

function wordsFor(what: Act): string {
  switch (what.kind) {
    case 'judge':
      return what.judged === 'not-yet' ? 'judged no more' : wordFor(what.judged);
    case 'tag':
      return `tagged ${what.tag}`;
    case 'untag':
      return `not tagged ${what.tag} any more`;
    case 'shortlist':
      return 'on the shortlist';
    case 'unshortlist':
      return 'off the shortlist';
    case 'watch':
      return 'watched';
    case 'unwatch':
      return 'not watched any longer';
    case 'measure':
      return 'checking, then measuring';
    case 'inspect':
      return 'measured closely: past, forwarding, referrers, word marks';
  }
}

export const DAY_MS = 86_400_000;
/** For how long a domain can be put off. */
export const SNOOZES = [
  ['until tomorrow', 1],
  ['for a week', 7],
  ['for a month', 30],
] as const;

/** Reasons for passing a domain over that are one key away. */
export const PASS_REASONS = [
  'off subject',
  'too dear',
  'weak links',
  'bad past',
  'trademark',
  'unsayable name',
] as const;
