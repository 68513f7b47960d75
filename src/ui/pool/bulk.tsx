'use client';

import { DropdownMenu } from 'radix-ui';
import type { Judgement } from '../../core/pool/facts';
import { count } from '../../core/wording/format';
import { OneLine } from '../forms/one-line';
import Link from '../link';
import { type Act, DAY_MS, PASS_REASONS, SNOOZES } from './acts';
import { FORMAT_TITLES, FORMATS } from './export-formats';
import { Menu } from './menu';

interface Props {
  selected: number;
  total: number;
  tags: { id: number; name: string }[];
  briefId: number;
  now: number;
  isAll: boolean;
  /** Who is asked for figures; null: nobody is set up. */
  asks: string | null;
  /** What the export form sends. */
  exportWhich: string;
  onAct(act: Act): void;
  onAll(): void;
  onNone(): void;
  onCopy(): void;
  /** Address that puts the selected side by side; null: too few or too many. */
  compare: string | null;
}

const item = 'block px-3 py-1 outline-none data-[highlighted]:bg-damson-soft';

/** What can be done with what is selected, one domain or three quarters of a million. */
export default function Bulk({
  selected,
  total,
  tags,
  briefId,
  now,
  isAll,
  asks,
  exportWhich,
  onAct,
  onAll,
  onNone,
  onCopy,
  compare,
}: Props) {
  const judge = (judged: Judgement, reason: string | null = null, until: number | null = null) =>
    onAct({ kind: 'judge', judged, reason, until });
  return (
    <>
      <strong>{count(selected)} selected</strong>
      {!isAll && selected < total && (
        <button type="button" className="set" onClick={onAll}>
          all {count(total)}
        </button>
      )}
      <button type="button" className="press" onClick={() => onAct({ kind: 'shortlist', brief: briefId })}>
        Shortlist
      </button>
      <Menu label="Mark">
        <DropdownMenu.Item className={item} onSelect={() => judge('keep')}>
          Keep
        </DropdownMenu.Item>
        {PASS_REASONS.map((reason) => (
          <DropdownMenu.Item key={reason} className={item} onSelect={() => judge('pass', reason)}>
            Pass: {reason}
          </DropdownMenu.Item>
        ))}
        <DropdownMenu.Item className={item} onSelect={() => judge('spam')}>
          Spam
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={() => judge('clean')}>
          Sound
        </DropdownMenu.Item>
        {SNOOZES.map(([words, days]) => (
          <DropdownMenu.Item key={words} className={item} onSelect={() => judge('snoozed', null, now + days * DAY_MS)}>
            Snooze {words}
          </DropdownMenu.Item>
        ))}
        <DropdownMenu.Item className={item} onSelect={() => judge('not-yet')}>
          Take the mark back
        </DropdownMenu.Item>
        <DropdownMenu.Separator className="my-1 border-t border-rule" />
        <DropdownMenu.Item className={item} onSelect={() => judge('excluded')}>
          Exclude: never show again
        </DropdownMenu.Item>
      </Menu>
      <Menu label="Tag">
        {tags.map(({ id, name }) => (
          <DropdownMenu.Item key={id} className={item} onSelect={() => onAct({ kind: 'tag', tag: name })}>
            {name}
          </DropdownMenu.Item>
        ))}
        <OneLine
          label="Another tag"
          button="Tag"
          placeholder="Another tag"
          className="w-36"
          outer="flex gap-2 px-3 py-1"
          onKeyDown={(event) => event.stopPropagation()}
          act={(tag) => onAct({ kind: 'tag', tag })}
        />
      </Menu>
      <Menu label="Watch">
        <DropdownMenu.Item className={item} onSelect={() => onAct({ kind: 'watch' })}>
          Watch: look again by itself as its life goes on
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={() => onAct({ kind: 'unwatch' })}>
          Watch no longer
        </DropdownMenu.Item>
      </Menu>
      <Menu label="Measure">
        <DropdownMenu.Item className={item} onSelect={() => onAct({ kind: 'measure' })}>
          Check and measure
        </DropdownMenu.Item>
        <DropdownMenu.Item className={item} onSelect={() => onAct({ kind: 'inspect' })}>
          Measure in depth: history, forwarding, referring domains, trademarks
        </DropdownMenu.Item>
        {asks !== null && (
          <DropdownMenu.Item className={item} onSelect={() => onAct({ kind: 'figures' })}>
            Ask {asks} for backlinks, traffic and keywords
          </DropdownMenu.Item>
        )}
      </Menu>
      {compare && (
        <Link className="quiet" href={compare}>
          Compare
        </Link>
      )}
      <Menu label="Export">
        {FORMATS.map((format) => (
          <form key={format} method="post" action="/api/v1/export">
            <input type="hidden" name="format" value={format} />
            <input type="hidden" name="which" value={exportWhich} />
            <DropdownMenu.Item asChild className={`${item} w-full text-left`}>
              <button type="submit">As {FORMAT_TITLES[format]}</button>
            </DropdownMenu.Item>
          </form>
        ))}
        <DropdownMenu.Item className={item} onSelect={onCopy}>
          Copy as text
        </DropdownMenu.Item>
      </Menu>
      <button type="button" className="quiet" onClick={onNone}>
        Select none
      </button>
    </>
  );
}
