import { isAbsolute } from 'node:path';
import { readMailbox } from '../../../../core/formats/mailbox';
import { keepMailboxPassword, mailboxPassword } from '../../../../store/base/mailbox-keys';
import { addWatch, listWatches, readWatch } from '../../../../store/sources/watches';
import { getStore } from '../../../server';
import { checkKey, Problem, route } from '../../respond';

const MINUTE = 60_000;

export const GET = route('GET /watches', async () => ({ watches: listWatches(await getStore()) }));

/** Watches a folder, an address or a mail folder; it is looked at at once, and again and again. */
export const POST = route('POST /watches', async ({ body, request }) => {
  const { kind, target, name, everyMinutes, excludedEndings, checkAfter, from, subject, password } = body;
  if (kind === 'folder' && !isAbsolute(target))
    throw new Problem(400, 'Not a path', 'A folder is named by its whole path, from the root.');
  if (kind === 'address' && !/^https?:\/\/[^/]/i.test(target))
    throw new Problem(400, 'Not an address', 'An address begins with http:// or https://.');
  const store = await getStore();
  if (kind === 'mail') {
    const mailbox = readMailbox(target);
    if (!mailbox) throw new Problem(400, 'Not a mail folder', 'A mail folder is named as imaps://login@host/folder.');
    const kept = mailboxPassword(store, mailbox.account);
    // gathering may add an account; to change a key that is kept is more than that
    if (kept !== '' && password !== '' && password !== kept)
      await checkKey(request, 'another password for a mail account', { needs: 'act' });
    if (password !== '') keepMailboxPassword(store, mailbox.account, password);
    else if (kept === '') throw new Problem(400, 'No password', 'Say the password of the mail account.');
  }
  const options = { excludedEndings, checkAfter, from, subject };
  const watch = { kind, target, name, options, sourceId: null, everyMs: everyMinutes * MINUTE };
  return { watch: readWatch(store, addWatch(store, watch, store.now())) };
});
