import { Refusal } from '../../core/refusal';
import type { Store } from './database';
import { readKeys, writeKeys } from './key-file';

/** The password of a mail account, by its address without the folder; '': none is kept, or the keys are sealed. */
export function mailboxPassword({ folder }: Store, account: string): string {
  return readKeys(folder)?.mailboxes[account] ?? '';
}

/** Keeps a password with the other keys. @throws Refusal where they are sealed. */
export function keepMailboxPassword(store: Store, account: string, password: string): void {
  change(store, (kept) => ({ ...kept, [account]: password }));
}

/** Forgets the passwords of all mail accounts but these. */
export function dropMailboxPasswords(store: Store, inUse: readonly string[]): void {
  const kept = readKeys(store.folder);
  if (kept === null || Object.keys(kept.mailboxes).every((account) => inUse.includes(account))) return;
  change(store, (before) => Object.fromEntries(Object.entries(before).filter(([account]) => inUse.includes(account))));
}

function change({ folder }: Store, next: (before: Record<string, string>) => Record<string, string>): void {
  const before = readKeys(folder);
  if (before === null)
    throw new Refusal('keys-sealed', 'The keys are sealed, and the passphrase was not given at the start.', {
      advice: 'Start again with the passphrase (npm start -- --passphrase), then enter the password.',
    });
  writeKeys(folder, { ...before, mailboxes: next(before.mailboxes) });
}
