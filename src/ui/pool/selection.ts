import type { SievePart } from '../../core/pool/conditions';

/** What is selected: some domains, or all that match but some. */
export type Selection = { all: false; ids: ReadonlySet<number> } | { all: true; except: ReadonlySet<number> };

export const NOTHING: Selection = { all: false, ids: new Set() };
export const EVERYTHING: Selection = { all: true, except: new Set() };

export function isSelected(selection: Selection, id: number): boolean {
  return selection.all ? !selection.except.has(id) : selection.ids.has(id);
}

/** How many are selected of `total` that match. */
export function selectedCount(selection: Selection, total: number): number {
  return selection.all ? Math.max(0, total - selection.except.size) : selection.ids.size;
}

export function toggled(selection: Selection, id: number): Selection {
  return withIds(selection, [id], !isSelected(selection, id));
}

/** The same with some domains in it, or out of it. */
export function withIds(selection: Selection, ids: Iterable<number>, isIn: boolean): Selection {
  const set = new Set(selection.all ? selection.except : selection.ids);
  for (const id of ids) {
    if (isIn === selection.all) set.delete(id);
    else set.add(id);
  }
  return selection.all ? { all: true, except: set } : { all: false, ids: set };
}

/** As the HTTP interface names them. */
export function whichOf(selection: Selection, parts: SievePart[], withExcluded: boolean) {
  return selection.all ? { parts, withExcluded, except: [...selection.except] } : { ids: [...selection.ids] };
}

/** So many domains stand side by side. */
export const MOST_BESIDE = 4;

/** Address that puts the selected side by side; null: too few or too many for that. */
export function compareAddress(selection: Selection): string | null {
  if (selection.all || selection.ids.size < 2 || selection.ids.size > MOST_BESIDE) return null;
  return `/compare?${[...selection.ids].map((id) => `id=${id}`).join('&')}`;
}

/** What an export or a copy is of, as the form of the export says it. @param view address of the view. */
export function exportWhich(selection: Selection, view: string): string {
  return JSON.stringify(selection.all ? { view, except: [...selection.except] } : { ids: [...selection.ids] });
}
