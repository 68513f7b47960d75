import { type Funnelled, type FunnelStep, funnelSteps } from '../../core/lifecycle/funnel';
import { count } from '../../core/wording/format';
import { STATUS_WORDS } from '../../core/wording/status';
import Link from '../link';

const STEP_WORDS: Record<FunnelStep['step'], [title: string, hint: string]> = {
  given: ['Names given', 'cut down to registrable domains, each once'],
  known: ['Known already', 'an answer is fresh enough'],
  dns: ['DNS', 'the servers of the TLD: what is delegated is registered'],
  record: ['Record', 'RDAP, or WHOIS where there is none'],
  registrar: ['Registrar', 'whether it would register what is available'],
};
const WIDTH = 520;

/** How many names come to each step, how many leave it with a verdict, and how many still wait there. */
export function Funnel({ batch, sourceId }: { batch: Funnelled; sourceId: number }) {
  const steps = funnelSteps(batch);
  const most = Math.max(1, ...steps.map(({ comes }) => comes));
  const bar = (value: number) => `${Math.max(value > 0 ? 2 : 0, (value / most) * WIDTH)}px`;
  return (
    <section aria-labelledby="funnel">
      <h2 id="funnel">The way of the names</h2>
      <ol className="mt-2">
        {steps.map(({ step, comes, leaves, waits }) => (
          <li key={step} className="border-t border-rule py-2" data-step={step}>
            <div className="flex items-baseline gap-3">
              <span className="w-36 shrink-0">
                <strong>{STEP_WORDS[step][0]}</strong>
              </span>
              <span className="w-20 shrink-0 text-right font-serif text-[18px] leading-none">{count(comes)}</span>
              <span className="small">{STEP_WORDS[step][1]}</span>
            </div>
            <div className="mt-1 ml-39 flex h-2" aria-hidden="true">
              <span className="bg-damson" style={{ width: bar(comes - waits) }} />
              <span
                className="border border-damson bg-sheet"
                style={{ width: bar(waits), display: waits ? undefined : 'none' }}
              />
            </div>
            <p className="mt-1 ml-39 flex flex-wrap gap-x-4">
              {leaves.map((leaf) => (
                <span key={leaf.as} className="whitespace-nowrap">
                  {leaf.as === 'repeated' || leaf.as === 'set-aside' ? (
                    <>
                      <strong>{count(leaf.count)}</strong>{' '}
                      {leaf.as === 'repeated' ? 'given more than once' : 'no domain'}
                    </>
                  ) : (
                    <Link className="hover:underline" href={`/check/${sourceId}?phase=${leaf.as}`}>
                      <strong>{count(leaf.count)}</strong> {STATUS_WORDS[leaf.as]}
                    </Link>
                  )}
                </span>
              ))}
              {waits > 0 && (
                <span className="text-muted">
                  <strong>{count(waits)}</strong> wait for their turn
                </span>
              )}
            </p>
          </li>
        ))}
      </ol>
    </section>
  );
}
