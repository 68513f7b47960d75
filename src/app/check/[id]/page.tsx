import type { Metadata } from 'next';
import { notFound } from 'next/navigation';
import { PHASES, type Phase } from '../../../core/lifecycle/phase';
import { displayName } from '../../../core/names/domain';
import { ago, count, plural, span } from '../../../core/wording/format';
import { statusName } from '../../../core/wording/status';
import { type BatchView, batchView } from '../../../services/availability/batch';
import { jobView } from '../../../services/pool/views';
import type { Store } from '../../../store/base/database';
import { jobsOfSource } from '../../../store/base/jobs';
import { contradictionsOf, type DomainRow, readDomains } from '../../../store/domains/domains';
import { UNASKED, windowOf } from '../../../store/lifecycle/verdicts';
import { idsOfBatch, readBatch } from '../../../store/sources/batches';
import { Funnel } from '../../../ui/check/funnel';
import { WaitingLines } from '../../../ui/check/lookup-problems';
import { Registries } from '../../../ui/check/registries';
import { ExportMenu } from '../../../ui/export-menu';
import { JobLine } from '../../../ui/jobs';
import Link, { DomainLink } from '../../../ui/link';
import { PlainTable, plainColumnsFor } from '../../../ui/parts/plain-table';
import { RefreshOnJobs } from '../../../ui/sources/refresh';
import { parametersOf, type SearchParams } from '../../search-params';
import { getStore } from '../../server';

export const metadata: Metadata = { title: 'Batch' };

const ROWS = 200;

/** One batch: its funnel, who is waited for, and its names with their verdicts. */
export default async function BatchPage({
  params,
  searchParams,
}: {
  params: Promise<{ id: string }>;
  searchParams: SearchParams;
}) {
  const store = await getStore();
  const batch = readBatch(store, Number((await params).id) || 0);
  if (!batch) notFound();
  const query = await parametersOf(searchParams);
  const phase = PHASES.find((one) => one === query.get('phase')) ?? null;
  const page = Math.max(0, Math.floor(Number(query.get('page')) || 0));
  const now = store.now();
  const view = batchView(store, batch);
  const open = jobsOfSource(store, batch.id)
    .map(jobView)
    .filter(({ state }) => state !== 'done');
  return (
    <div className="mx-auto max-w-[1240px] px-6 py-6">
      <RefreshOnJobs />
      <div className="flex items-baseline gap-4">
        <h1>{batch.name}</h1>
        <span className="text-muted">
          {plural(view.domains, 'domain')} from {plural(view.read, 'name')}, {ago(view.at, now)}
        </span>
        <span className="ml-auto flex gap-2">
          <a className="quiet" href={`/pool?c=source:${batch.id}`}>
            Its names in the pool
          </a>
          <ExportMenu address={`/api/v1/batches/${batch.id}/file`} label="names with verdict and evidence" />
        </span>
      </div>
      {open.map((job) => (
        <JobLine key={job.id} job={job} />
      ))}
      <div className="mt-4 grid grid-cols-1 lg:grid-cols-[1fr_400px] gap-x-10">
        <Funnel batch={view} sourceId={batch.id} />
        <div>
          {view.waiting.length > 0 && (
            <section aria-labelledby="waits" className="mb-5">
              <h2 id="waits">Cannot be asked now</h2>
              <WaitingLines waiting={view.waiting} now={now} />
            </section>
          )}
          {view.lanes.length > 0 ? (
            <Registries queues={view.lanes} now={now} />
          ) : (
            <p className="small border-t border-rule pt-2">
              {open.length > 0
                ? 'The names are being read and asked for.'
                : 'Nothing of this batch waits for the turn of a registry.'}
            </p>
          )}
        </div>
      </div>
      <Names store={store} batch={view} phase={phase} page={page} now={now} />
    </div>
  );
}

function Names({
  store,
  batch,
  phase,
  page,
  now,
}: {
  store: Store;
  batch: BatchView;
  phase: Phase | null;
  page: number;
  now: number;
}) {
  const totals = new Map<Phase, number>();
  for (const cell of batch.cells) totals.set(cell.phase, (totals.get(cell.phase) ?? 0) + cell.count);
  const total = phase ? (totals.get(phase) ?? 0) : batch.domains;
  const rows = readDomains(store, idsOfBatch(store, batch.id, phase, ROWS, page * ROWS));
  const address = (to: Phase | null, at = 0) =>
    `/check/${batch.id}?${new URLSearchParams({ ...(to && { phase: to }), ...(at > 0 && { page: String(at) }) })}`;
  return (
    <section aria-labelledby="names" className="mt-7">
      <div className="flex flex-wrap items-baseline gap-4">
        <h2 id="names">Names</h2>
        <Link href={address(null)} className={phase === null ? 'border-b border-damson font-semibold' : 'text-muted'}>
          all {count(batch.domains)}
        </Link>
        {[...totals].map(([one, number]) => (
          <Link
            key={one}
            href={address(one)}
            className={phase === one ? 'border-b border-damson font-semibold' : 'text-muted'}
          >
            {statusName(one)} {count(number)}
          </Link>
        ))}
        {total > ROWS && (
          <span className="small ml-auto flex gap-3">
            {page > 0 && <Link href={address(phase, page - 1)}>earlier</Link>}
            {count(page * ROWS + 1)} to {count(Math.min(total, (page + 1) * ROWS))}
            {(page + 1) * ROWS < total && <Link href={address(phase, page + 1)}>later</Link>}
          </span>
        )}
      </div>
      <PlainTable
        label="Names of the batch"
        className="mt-2 table-fixed"
        rows={rows}
        rowId={({ id }) => String(id)}
        rowProps={({ name }) => ({ 'data-domain': name })}
        columns={[
          column('Domain', ({ name }) => <DomainLink name={name}>{displayName(name)}</DomainLink>, {
            className: 'w-72 truncate',
          }),
          column('Status', statusWords, { className: 'w-32' }),
          column(
            'Confidence',
            ({ phase_confidence }) => phase_confidence !== null && `${Math.round(phase_confidence * 100)}%`,
            { isNumber: true, className: 'w-20' },
          ),
          column('Because', (row) => (
            <>
              {row.phase_reason}
              {contradictionsOf(row).map((words) =>
                words === row.phase_reason ? null : (
                  <span key={words} className="block border-l-2 border-damson pl-2">
                    {words}
                  </span>
                ),
              )}
            </>
          )),
          column(
            'Expected drop, UTC',
            (row) => {
              const window = windowOf(row);
              return (
                window &&
                !window.isConditional && (
                  <span title={window.reasons.join('; ')}>{span(window.from, window.to, now)}</span>
                )
              );
            },
            { className: 'w-44' },
          ),
          column(
            'Asked',
            ({ phase_at, phase_source }) => <span title={phase_source ?? undefined}>{ago(phase_at, now)}</span>,
            { isNumber: true, className: 'small w-24' },
          ),
        ]}
      />
    </section>
  );
}

const column = plainColumnsFor<DomainRow>();

function statusWords({ phase_at, phase_source, phase }: DomainRow): string {
  if (phase_at === null) return 'not yet checked';
  return phase_source?.startsWith(UNASKED) ? 'could not be asked' : statusName(phase);
}
