import type { DomainView } from '../../core/pool/domain-view';
import { type KeyOf, pressed } from '../shell/key-list';
import { type Act, DAY_MS } from './acts';

interface Pointed {
  /** The row under the cursor. */
  current: DomainView | null;
  /** Whether it is done to that row alone. */
  isOne: boolean;
  briefId: number;
  now: number;
}

/** What a key does to rows; null: nothing. */
export function actOfKey(key: KeyOf<'pool'> | null, { current, isOne, briefId, now }: Pointed): Act | null {
  switch (key) {
    case 'shortlist':
      return current ? { kind: isOne && current.shortlisted ? 'unshortlist' : 'shortlist', brief: briefId } : null;
    case 'keep':
      return { kind: 'judge', judged: 'keep' };
    case 'pass':
      return { kind: 'judge', judged: 'pass' };
    case 'spam':
      return { kind: 'judge', judged: 'spam' };
    case 'clean':
      return { kind: 'judge', judged: 'clean' };
    case 'snooze':
      return { kind: 'judge', judged: 'snoozed', until: now + 7 * DAY_MS };
    case 'takeBack':
      return { kind: 'judge', judged: 'not-yet' };
    case 'exclude':
      return { kind: 'judge', judged: 'excluded' };
    case 'watch':
      return { kind: isOne && current?.watched === 'by hand' ? 'unwatch' : 'watch' };
    default:
      return null;
  }
}

/** Keys that the grid itself hears. */
export const WALKING: ReadonlySet<KeyOf<'pool'> | null> = new Set([
  'next',
  'previous',
  'pageDown',
  'pageUp',
  'first',
  'last',
  'open',
  'select',
]);
export const again = ({ key, shiftKey }: globalThis.KeyboardEvent) =>
  new window.KeyboardEvent('keydown', { key, shiftKey, bubbles: true, cancelable: true });

/** Whether a key is meant for the rows although they have not the focus: nothing else has it, or all of them are to be selected. */
export function isForRows(event: globalThis.KeyboardEvent): boolean {
  const target = event.target as HTMLElement;
  if (target.closest('#grid') || document.querySelector('[role=dialog],[role=menu]')) return false;
  const isAll = pressed('pool', event) === 'selectAll';
  if (isAll) return !target.isContentEditable && !['INPUT', 'TEXTAREA', 'SELECT'].includes(target.tagName);
  return target === document.body;
}
