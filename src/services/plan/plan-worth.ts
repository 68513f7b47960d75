import type { EnginePort } from '../../contracts/engine-port';
import type { SalesWorth, UseWorth } from '../../contracts/plan';
import { fixed, tenths } from '../../core/formats/figures';
import { widened } from '../../core/learning/calibration';
import type { Store } from '../../store/base/database';
import type { DomainRow } from '../../store/domains/domains';
import type { Brief } from '../../store/shortlist/briefs';
import type { inCurrency } from './currency';
import { rebuildFor, redirectFor } from './worth';

const ROWS_TOLD = 8;

/** What a domain would bring by visits or links, where the brief is for that. */
export async function usesOf(store: Store, engine: EnginePort, row: DomainRow, brief: Brief): Promise<UseWorth[]> {
  const wants = (purpose: 'rebuild' | 'redirect') => brief.purpose === purpose || (brief.mix?.[purpose] ?? 0) > 0;
  const uses: UseWorth[] = [];
  const rebuilt = wants('rebuild') ? rebuildFor(store, row, brief) : null;
  if (rebuilt && rebuilt.lowMinor > 0)
    uses.push({
      use: 'rebuild',
      lowMinor: rebuilt.lowMinor,
      highMinor: rebuilt.highMinor,
      words: `${Math.round(rebuilt.keptVisits)} of ${Math.round(rebuilt.visits)} visits a month would come back (${Math.round(100 * rebuilt.byTime)}% by ${tenths(rebuilt.yearsOff)} years off line, ${Math.round(100 * rebuilt.byDrift)}% by topic change, the rest by competition); ${brief.assumptions.earningMonths} months of them; estimates of ${rebuilt.sources.join(', ')}`,
      rows: rebuilt.phrases
        .slice(0, ROWS_TOLD)
        .map(({ phrase, position, searches, keptVisits, monthMinor, isOwnName }) => ({
          what: phrase,
          detail: `position ${position}, search volume ${searches}, ${tenths(keptVisits)} visits back${isOwnName ? ': asks for the old owner' : ''}`,
          minor: Math.round(monthMinor),
        })),
    });
  const redirected = wants('redirect') ? await redirectFor(store, engine, row, brief) : null;
  if (redirected && redirected.lowMinor > 0)
    uses.push({
      use: 'redirect',
      lowMinor: redirected.lowMinor,
      highMinor: redirected.highMinor,
      words: `${redirected.ofSubject} of ${redirected.referrers.length} effective referring domains are of the subject, of ${redirected.notTold} it is not told; ${brief.assumptions.carryPercent}% of a link is carried over`,
      rows: redirected.referrers.slice(0, ROWS_TOLD).map(({ site, strength, weight, isOfSubject, worthMinor }) => ({
        what: site,
        detail: `strength ${strength === null ? 'not measured' : tenths(strength)}, counts ${fixed(weight, 2)}, ${isOfSubject === null ? 'subject not told' : isOfSubject ? 'of the subject' : 'of another'}`,
        minor: Math.round(worthMinor),
      })),
    });
  return uses;
}

const NEAR_TOLD = 5;

export async function resaleFor(
  engine: EnginePort,
  names: string[],
  priced: ReturnType<typeof inCurrency>,
  rangeFactor: number,
): Promise<(SalesWorth | null)[]> {
  // the engine judges; while it starts, nothing is suggested
  const worths = await engine.resaleWorth(names).catch(() => names.map(() => null));
  const own = (minor: number) => priced(minor, null) ?? minor;
  return worths.map(
    (worth) =>
      worth && {
        ...widened({ lowMinor: own(worth.lowMinor), highMinor: own(worth.highMinor) }, rangeFactor),
        near: worth.near.slice(0, NEAR_TOLD).map(({ sale, distance, adjustedMinor }) => ({
          name: sale.name,
          priceMinor: own(sale.priceMinor),
          at: sale.at,
          distance: Math.round(distance * 100) / 100,
          adjustedMinor: own(adjustedMinor),
        })),
      },
  );
}
