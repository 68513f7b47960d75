import type { Metadata } from 'next';
import { formatView, parseView, type SievePart } from '../../core/pool/conditions';
import { askPool } from '../../services/pool/ask-pool';
import { listSieves } from '../../store/pool/sieves';
import { ReviewScreen } from '../../ui/review/review-screen';
import { parametersOf, type SearchParams } from '../search-params';
import { currentBrief } from '../server';

export const metadata: Metadata = { title: 'Review' };

const PAGE = 100;
/** What was judged before is not asked again, unless the sieve itself speaks of judgements. */
const UNJUDGED: SievePart = { type: 'choice', fact: 'judged', values: ['not-yet'], not: false, keepUnknown: false };

export default async function ReviewPage({ searchParams }: { searchParams: SearchParams }) {
  const { store, engine, brief } = await currentBrief();
  const view = parseView(await parametersOf(searchParams));
  const speaks = view.parts.some((part) => part.type !== 'group' && part.fact === 'judged' && !part.off);
  const parts = speaks ? view.parts : [...view.parts, UNJUDGED];
  const query = { parts, sorts: view.sorts, offset: 0, limit: PAGE, histograms: [] };
  const first = await askPool(store, engine, brief, query).catch(() => null);
  const [only] = view.parts;
  const sieve =
    view.parts.length === 1 && only.type === 'member' && only.fact === 'fresh'
      ? listSieves(store).find(({ id }) => id === only.values[0])
      : undefined;
  const key = formatView(view).toString();
  return (
    <ReviewScreen
      key={key}
      briefId={brief.id}
      briefName={brief.name}
      parts={parts}
      sorts={view.sorts}
      back={`/pool?${sieve ? sieve.view : key}`}
      sieveName={sieve?.name ?? null}
      first={first}
    />
  );
}
