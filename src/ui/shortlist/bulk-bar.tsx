'use client';

import { OneLine } from '../forms/one-line';
import Link from '../link';
import { MOST_BESIDE } from '../pool/selection';
import type { Entry } from './entry';
import { STAGE_STEPS, type StageName } from './stages';

/** What can be done with the entries that are ticked. */
export function BulkBar({
  ticked,
  onStage,
  onTag,
  onRemove,
  onNone,
}: {
  ticked: Entry[];
  onStage(stage: StageName): void;
  onTag(tag: string): void;
  onRemove(): void;
  onNone(): void;
}) {
  const names = ticked.map(({ domain }) => domain.name);
  return (
    <div role="toolbar" aria-label="Ticked" className="mt-3 flex items-center gap-3 bg-damson-soft px-3 py-1.5">
      <strong>{ticked.length} ticked</strong>
      <label className="flex items-center gap-1.5">
        move to
        <select
          className="field py-0.5"
          aria-label="Move the ticked to"
          value=""
          onChange={(event) => onStage(event.target.value as StageName)}
        >
          <option value="" disabled>
            a stage
          </option>
          {STAGE_STEPS.map(([name]) => (
            <option key={name}>{name}</option>
          ))}
        </select>
      </label>
      <OneLine
        label="Tag for the ticked"
        before="tag"
        button="Tag"
        placeholder="tag"
        maxLength={60}
        className="w-32 py-0.5"
        outer="flex items-center gap-1.5"
        act={onTag}
      />
      {names.length > 1 && names.length <= MOST_BESIDE && (
        <Link className="press" href={`/compare?${new URLSearchParams(names.map((name) => ['name', name]))}`}>
          Compare {names.length}
        </Link>
      )}
      <button type="button" className="quiet" onClick={onRemove}>
        Remove
      </button>
      <button type="button" className="set ml-auto" onClick={onNone}>
        tick none
      </button>
    </div>
  );
}
