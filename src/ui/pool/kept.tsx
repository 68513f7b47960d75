'use client';

import { Dialog, DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { StoredSieve } from '../../contracts/sieves';
import { formatView, type PoolView, parseView } from '../../core/pool/conditions';
import { ago, count } from '../../core/wording/format';
import { call } from '../api';
import { useNow } from '../shell/live';
import { undoToast } from '../undo';
import { PRESETS } from './presets';
import { sentence } from './sentences';

interface Props {
  view: PoolView;
  sieves: StoredSieve[];
  current: StoredSieve | null;
  /** It was opened, and is not as it is kept any more. */
  isChanged: boolean;
  onOpened(id: number | null): void;
  briefs: { id: number; name: string }[];
  /** The pool as the current brief wants it. */
  ofBrief: { name: string; view: string };
  onChange(view: PoolView): void;
  onKept(): void;
}

/** Keeping, finding, running and sharing sieves, and the starting points. */
export function KeptSieves(props: Props) {
  const { view, sieves, current, isChanged, briefs, ofBrief, onOpened, onChange, onKept } = props;
  const [dialog, setDialog] = useState<'keep' | 'starts' | StoredSieve | null>(null);
  const open = (text: string, id: number | null = null) => {
    onOpened(id);
    onChange(parseView(new URLSearchParams(text)));
  };
  const attempt = async (act: () => Promise<void>) => {
    try {
      await act();
    } catch (error) {
      toast((error as Error).message);
    }
  };
  const run = (sieve: StoredSieve) =>
    attempt(async () => {
      const { total, fresh } = await call('POST /sieves/{id}/run', { params: { id: sieve.id } });
      toast(
        `"${sieve.name}": ${count(total)} pass, ${fresh === 0 ? 'none of them new' : `${count(fresh)} of them new`}`,
      );
      onKept();
    });
  const keep = ({ id, name }: StoredSieve) =>
    attempt(async () => {
      const { act } = await call('PATCH /sieves/{id}', { params: { id }, body: { view: formatView(view).toString() } });
      undoToast(`"${name}" is kept as it is now`, act, onKept);
      onKept();
    });
  const take = (file: File | undefined) =>
    attempt(async () => {
      if (!file) return;
      const text = await file.text();
      if (!isJson(text)) throw new Error(`${file.name} is no sieve file: it is not JSON.`);
      // the server says what else is wrong with it
      const body = JSON.parse(text);
      const taken = await call('POST /sieves/file', { body });
      open(taken.view, taken.id);
      onKept();
      toast([`Kept as "${taken.name}", and opened`, ...taken.problems].join('. '));
    });
  const item = 'block truncate px-3 py-1 outline-none data-[highlighted]:bg-damson-soft';
  return (
    <>
      <DropdownMenu.Root>
        <DropdownMenu.Trigger className="quiet">Kept sieves</DropdownMenu.Trigger>
        <DropdownMenu.Portal>
          <DropdownMenu.Content
            align="start"
            sideOffset={4}
            collisionPadding={8}
            className="z-50 max-h-[var(--radix-dropdown-menu-content-available-height)] w-72 overflow-auto rounded border border-rule bg-sheet py-1 shadow-lg"
          >
            <DropdownMenu.Item className={item} onSelect={() => open(ofBrief.view)}>
              As the brief has it: {ofBrief.name}
            </DropdownMenu.Item>
            <DropdownMenu.Separator className="my-1 border-t border-rule" />
            {sieves.length === 0 && <p className="small px-3 py-1">None kept yet.</p>}
            {sieves.map((sieve) => (
              <DropdownMenu.Item
                key={sieve.id}
                className={`${item} flex gap-2`}
                onSelect={() => open(sieve.view, sieve.id)}
              >
                <span className={`min-w-0 flex-1 truncate ${sieve.id === current?.id ? 'font-semibold' : ''}`}>
                  {sieve.name}
                </span>
                {sieve.fresh > 0 && <span className="small">{count(sieve.fresh)} new</span>}
              </DropdownMenu.Item>
            ))}
            <DropdownMenu.Separator className="my-1 border-t border-rule" />
            <DropdownMenu.Item className={item} onSelect={() => setDialog('keep')}>
              Keep this sieve…
            </DropdownMenu.Item>
            {current && (
              <>
                <DropdownMenu.Item className={item} onSelect={() => setDialog(current)}>
                  Schedule and rename "{current.name}"…
                </DropdownMenu.Item>
                <DropdownMenu.Item className={item} onSelect={() => void run(current)}>
                  Run it now
                </DropdownMenu.Item>
                {current.fresh > 0 && (
                  <DropdownMenu.Item
                    className={item}
                    onSelect={() =>
                      void attempt(async () => {
                        await call('POST /sieves/{id}/seen', { params: { id: current.id }, body: {} });
                        onKept();
                      })
                    }
                  >
                    The {count(current.fresh)} new ones are seen
                  </DropdownMenu.Item>
                )}
                <DropdownMenu.Item asChild className={item}>
                  <a href={`/api/v1/sieves/${current.id}/file`} download>
                    Save it as a file
                  </a>
                </DropdownMenu.Item>
                <DropdownMenu.Item asChild className={item}>
                  <a href={`/api/v1/sieves/${current.id}/feed`}>Atom feed of what is new</a>
                </DropdownMenu.Item>
              </>
            )}
            <DropdownMenu.Item asChild className={item} onSelect={(event) => event.preventDefault()}>
              <label className="cursor-pointer">
                Open a sieve file…
                <input
                  type="file"
                  className="sr-only"
                  accept=".json,application/json"
                  onChange={(event) => void take(event.target.files?.[0])}
                />
              </label>
            </DropdownMenu.Item>
            <DropdownMenu.Item className={item} onSelect={() => setDialog('starts')}>
              Starting points…
            </DropdownMenu.Item>
          </DropdownMenu.Content>
        </DropdownMenu.Portal>
      </DropdownMenu.Root>
      {current && isChanged && (
        <p className="small w-full" role="status">
          changed:{' '}
          <button type="button" className="set" onClick={() => void keep(current)}>
            keep
          </button>
          {', '}
          <button type="button" className="set" onClick={() => setDialog('keep')}>
            keep as another
          </button>
          {', '}
          <button type="button" className="set" onClick={() => open(current.view, current.id)}>
            put back
          </button>
        </p>
      )}
      {dialog === 'keep' && (
        <Keep view={view} current={current} onOpened={onOpened} onClose={() => setDialog(null)} onKept={onKept} />
      )}
      {dialog === 'starts' && <Starts onClose={() => setDialog(null)} onChange={onChange} />}
      {dialog !== null && typeof dialog === 'object' && (
        <Schedule
          sieve={dialog}
          briefs={briefs}
          onClose={() => setDialog(null)}
          onKept={onKept}
          onGone={(text) => open(text)}
        />
      )}
    </>
  );
}

function Box({
  title,
  wide,
  onClose,
  children,
}: {
  title: string;
  wide?: boolean;
  onClose(): void;
  children: React.ReactNode;
}) {
  return (
    <Dialog.Root open onOpenChange={(isOpen) => !isOpen && onClose()}>
      <Dialog.Portal>
        <Dialog.Overlay className="fixed inset-0 z-40 bg-ink/20" />
        <Dialog.Content
          aria-describedby={undefined}
          className={`fixed left-1/2 top-20 z-50 max-h-[84vh] ${wide ? 'w-[720px]' : 'w-[440px]'} -translate-x-1/2 overflow-auto rounded-lg border border-rule bg-sheet p-5 shadow-xl`}
        >
          <Dialog.Title className="mb-3 font-serif text-title font-semibold">{title}</Dialog.Title>
          {children}
        </Dialog.Content>
      </Dialog.Portal>
    </Dialog.Root>
  );
}

function Keep({
  view,
  current,
  onOpened,
  onClose,
  onKept,
}: Pick<Props, 'view' | 'current' | 'onOpened' | 'onKept'> & { onClose(): void }) {
  const [name, setName] = useState(current ? `${current.name}, another` : '');
  const [problem, setProblem] = useState<string | null>(null);
  return (
    <Box title="Keep this sieve" onClose={onClose}>
      <form
        onSubmit={async (event) => {
          event.preventDefault();
          try {
            const { id } = await call('POST /sieves', { body: { name, view: formatView(view).toString() } });
            onOpened(id);
            toast(`Kept as "${name}"`);
            onKept();
            onClose();
          } catch (error) {
            setProblem((error as Error).message);
          }
        }}
      >
        <p className="small mb-2">Its conditions, order and columns, under a name of its own.</p>
        <input
          className="field w-full"
          placeholder="Name for this sieve"
          aria-label="Name for this sieve"
          value={name}
          // biome-ignore lint/a11y/noAutofocus: a box for one field
          autoFocus
          onChange={(event) => setName(event.target.value)}
        />
        {problem && (
          <p role="alert" className="mt-2 bg-quince px-2 py-1">
            {problem}
          </p>
        )}
        <p className="mt-3 flex justify-end gap-2">
          <button type="button" className="quiet" onClick={onClose}>
            Leave it
          </button>
          <button type="submit" className="press" disabled={name.trim() === ''}>
            Keep
          </button>
        </p>
      </form>
    </Box>
  );
}

/** When a kept sieve runs, and what becomes of what is new in it. */
function Schedule({
  sieve,
  briefs,
  onClose,
  onKept,
  onGone,
}: {
  sieve: StoredSieve;
  briefs: Props['briefs'];
  onClose(): void;
  onKept(): void;
  onGone(view: string): void;
}) {
  const now = useNow();
  const [form, setForm] = useState(sieve);
  const [problem, setProblem] = useState<string | null>(null);
  const set = (change: Partial<StoredSieve>) => setForm({ ...form, ...change });
  const time = `${String(Math.floor(form.runMinute / 60)).padStart(2, '0')}:${String(form.runMinute % 60).padStart(2, '0')}`;
  const save = async () => {
    try {
      const { name, runs, runMinute, inDigest, shortlistBrief, depth } = form;
      await call('PATCH /sieves/{id}', {
        params: { id: sieve.id },
        body: { name, runs, runMinute, inDigest, shortlistBrief, depth },
      });
      onKept();
      onClose();
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const remove = async () => {
    try {
      const { act } = await call('DELETE /sieves/{id}', { params: { id: sieve.id } });
      onKept();
      onGone(sieve.view);
      onClose();
      undoToast(`"${sieve.name}" deleted`, act, onKept);
    } catch (error) {
      setProblem((error as Error).message);
    }
  };
  const radio = (runs: StoredSieve['runs'], label: React.ReactNode) => (
    <label className="flex items-center gap-2 py-0.5">
      <input type="radio" name="runs" checked={form.runs === runs} onChange={() => set({ runs })} />
      {label}
    </label>
  );
  return (
    <Box title={`"${sieve.name}"`} onClose={onClose}>
      <form
        className="flex flex-col gap-3"
        onSubmit={(event) => {
          event.preventDefault();
          void save();
        }}
      >
        <p className="small">
          {sieve.lastAt === null
            ? 'Has not run yet: the first run only notes what is there.'
            : `Last run ${ago(sieve.lastAt, now)}: ${count(sieve.lastTotal)} passed.`}
        </p>
        <label>
          Name
          <input
            className="field mt-1 w-full"
            value={form.name}
            onChange={(event) => set({ name: event.target.value })}
          />
        </label>
        <fieldset>
          <legend className="font-semibold">Runs</legend>
          {radio('off', 'only when asked to')}
          {radio(
            'daily',
            <>
              daily at{' '}
              <input
                type="time"
                className="field"
                aria-label="Time of day, UTC"
                value={time}
                onChange={(event) => {
                  const [hours, minutes] = event.target.value.split(':').map(Number);
                  if (Number.isFinite(hours) && Number.isFinite(minutes))
                    set({ runs: 'daily', runMinute: hours * 60 + minutes });
                }}
              />{' '}
              UTC
            </>,
          )}
          {radio('imports', 'after each import, crawl, check and measure')}
        </fieldset>
        <fieldset>
          <legend className="font-semibold">What is new since the last run</legend>
          <p className="small">is marked in the grid, counted on Today and offered as a feed; and</p>
          <label className="flex items-center gap-2 py-0.5">
            <input
              type="checkbox"
              checked={form.inDigest}
              onChange={(event) => set({ inDigest: event.target.checked })}
            />
            goes into the daily digest
          </label>
          <label className="flex items-center gap-2 py-0.5">
            is measured, only what passes here:
            <select
              className="field"
              value={form.depth}
              onChange={(event) => set({ depth: event.target.value as StoredSieve['depth'] })}
            >
              <option value="nothing">not at all</option>
              <option value="links">checks and links</option>
              <option value="everything">everything: past, referrers, word marks too</option>
            </select>
          </label>
          <label className="flex items-center gap-2 py-0.5">
            goes on the shortlist for
            <select
              className="field"
              value={form.shortlistBrief ?? ''}
              onChange={(event) =>
                set({ shortlistBrief: event.target.value === '' ? null : Number(event.target.value) })
              }
            >
              <option value="">no brief</option>
              {briefs.map(({ id, name }) => (
                <option key={id} value={id}>
                  {name}
                </option>
              ))}
            </select>
          </label>
        </fieldset>
        {problem && (
          <p role="alert" className="bg-quince px-2 py-1">
            {problem}
          </p>
        )}
        <p className="flex gap-2">
          <button type="button" className="quiet" onClick={() => void remove()}>
            Delete
          </button>
          <button type="button" className="quiet ml-auto" onClick={onClose}>
            Leave it
          </button>
          <button type="submit" className="press">
            Save
          </button>
        </p>
      </form>
    </Box>
  );
}

/** Starting points for the four kinds of work, each threshold with its reason. */
function Starts({ onClose, onChange }: { onClose(): void; onChange(view: PoolView): void }) {
  return (
    <Box title="Starting points" wide onClose={onClose}>
      <p className="small mb-1">To begin with and to change; every figure can be dragged once it is in your sieve.</p>
      {PRESETS.map((preset) => (
        <section key={preset.id} className="border-t border-rule py-3">
          <div className="flex items-baseline gap-3">
            <h2>{preset.name}</h2>
            <span className="small flex-1">{preset.lead}</span>
            <button
              type="button"
              className="quiet"
              aria-label={`Start with ${preset.name}`}
              onClick={() => {
                onChange({ parts: preset.parts.map(({ part }) => part), sorts: preset.sorts, columns: null });
                onClose();
              }}
            >
              Start with it
            </button>
          </div>
          <dl className="mt-1.5 grid grid-cols-[230px_1fr] gap-x-4 gap-y-1">
            {preset.parts.map(({ part, reason }) => (
              <div key={reason} className="contents">
                <dt>
                  {part.type !== 'group' &&
                    sentence(part, String).map(({ text, set }, i) => (
                      <span key={i} className={set ? 'font-semibold text-damson' : undefined}>
                        {text}
                      </span>
                    ))}
                </dt>
                <dd className="text-muted">{reason}</dd>
              </div>
            ))}
          </dl>
        </section>
      ))}
    </Box>
  );
}

function isJson(text: string): boolean {
  try {
    JSON.parse(text);
    return true;
  } catch {
    return false;
  }
}
