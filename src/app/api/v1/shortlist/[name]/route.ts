import { recordAct } from '../../../../../store/domains/acts';
import { findDomain } from '../../../../../store/domains/domains';
import { changeShortlist, type ShortlistChange, shortlistedFor } from '../../../../../store/shortlist/shortlist';
import { getEngine, getStore } from '../../../../server';
import { notFound, route } from '../../../respond';

const FIELD_WORDS = {
  stage: 'stage',
  maximumBidMinor: 'maximum bid',
  worthLowMinor: 'worth',
  worthHighMinor: 'worth',
  feesMinor: 'fees',
  note: 'note',
} as const;

/** What of an entry was changed. */
function changeWords(change: ShortlistChange): string {
  const fields = (Object.keys(change) as (keyof ShortlistChange)[]).map((field) => FIELD_WORDS[field]);
  return `${[...new Set(fields)].join(', ')} changed`;
}

async function domainId(name: string): Promise<number> {
  const row = findDomain(await getStore(), decodeURIComponent(name));
  if (!row) throw notFound(`domain "${name.slice(0, 80)}" in the pool`);
  return row.id;
}

/** Changes stage, maximum bid or note. Answers with the entry as it was, so that the change can be undone. */
export const PATCH = route('PATCH /shortlist/{name}', async ({ params: { name }, body }) => {
  const { briefId, ...change } = body;
  const store = await getStore();
  const id = await domainId(name);
  const { result: before, act } = recordAct(
    store,
    { kind: 'shortlist', words: `${decodeURIComponent(name)}: ${changeWords(change)}` },
    [{ table: 'shortlist', where: { brief_id: briefId, domain_id: id } }],
    () => changeShortlist(store, briefId, id, change),
  );
  if (!before) throw notFound(`entry for "${name}" on that shortlist`);
  return { before, act };
});

/** Takes a domain off; what was said of it holds again when it is put on again. Answers with the entry as it was, and with the action that can be undone. */
export const DELETE = route('DELETE /shortlist/{name}', async ({ query: { brief: briefId }, params: { name } }) => {
  const id = await domainId(name);
  const before = shortlistedFor(await getStore(), id).find((entry) => entry.briefId === briefId);
  if (!before) throw notFound(`entry for "${name}" on that shortlist`);
  const { action } = await getEngine().act({ kind: 'unshortlist', brief: briefId }, { ids: [id] });
  return { before, action };
});
