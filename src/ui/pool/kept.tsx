'use client';

import dynamic from 'next/dynamic';
import { DropdownMenu } from 'radix-ui';
import { useState } from 'react';
import { toast } from 'sonner';
import type { StoredSieve } from '../../contracts/sieves';
import { formatView, parseView } from '../../core/pool/conditions';
import { count } from '../../core/wording/format';
import { call } from '../api';
import { feedAddress } from '../feed-address';
import { undoToast } from '../undo';
import type { Props } from './kept-props';

// forms come when they are opened
const Keep = dynamic(() => import('./keep-dialog'), { ssr: false });
const Starts = dynamic(() => import('./starts-dialog'), { ssr: false });
const Schedule = dynamic(() => import('./schedule-dialog'), { ssr: false });

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
  const copyFeed = ({ id }: StoredSieve) =>
    attempt(async () => {
      await navigator.clipboard.writeText(await feedAddress(`/api/v1/sieves/${id}/feed`));
      toast('The address of the feed is copied; subscribe to it in your news reader');
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
                <DropdownMenu.Item className={item} onSelect={() => void copyFeed(current)}>
                  Copy the feed’s address
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
      {dialog !== null && typeof dialog === 'object' && (
        <Schedule
          sieve={dialog}
          briefs={briefs}
          onClose={() => setDialog(null)}
          onKept={onKept}
          onGone={(text) => open(text)}
        />
      )}
      {dialog === 'starts' && <Starts onClose={() => setDialog(null)} onChange={onChange} />}
    </>
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
