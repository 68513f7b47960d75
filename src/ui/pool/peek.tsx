'use client';

import type { DomainView } from '../../core/pool/domain-view';
import { freshRow, useDetails } from '../details';
import { Evidence } from '../evidence';

/** The evidence on the current row, which follows the cursor: figures at once, the rest when the hand rests. */
export default function Peek({
  row,
  now,
  next,
  onClose,
}: {
  row: DomainView;
  now: number;
  next?: string;
  onClose(): void;
}) {
  const details = useDetails(row.name, next ? [next] : [], 60);
  return (
    <aside aria-label="Quick look" className="w-[360px] shrink-0 overflow-auto border-l border-rule bg-paper px-5 py-4">
      <button type="button" className="set float-right text-small" onClick={onClose}>
        close
      </button>
      <Evidence row={freshRow(row, details)} details={details} now={now} narrow />
    </aside>
  );
}
