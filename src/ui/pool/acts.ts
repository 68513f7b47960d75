'use client';

import { toast } from 'sonner';
import type { Sent } from '../../contracts/calls';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { wordFor } from './sentences';

/** What can be done to domains. */
export type Act = Sent<'POST /actions'>['act'];
type Which = Sent<'POST /actions'>['which'];

export async function undo(actions: number[]): Promise<void> {
  for (const action of [...actions].reverse()) await call('POST /actions/{id}/undo', { params: { id: action } });
}

/**
 * Does it, says so, and offers to take it back.
 *
 * @param what which domains, as the HTTP interface names them; `name` when it is one.
 * @returns number of the action; null when nothing changed.
 */
export async function act(what: Act, which: Which, name: string | null, onUndone: () => void): Promise<number | null> {
  const { action, changed } = await call('POST /actions', { body: { act: what, which } });
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
    case 'figures':
      return 'asking for figures of backlinks, traffic and keywords';
    case 'inspect':
      return 'measured in depth: history, forwarding, referring domains, trademarks';
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
