/** The cards that are chosen, and the one that was chosen last. */
export type Selection = { chosen: ReadonlySet<number>; last: number | null };

export const NONE_CHOSEN: Selection = { chosen: new Set(), last: null };

/** Choose a card or leave it; with `through`, all from the last one chosen to this one, in the calendar's order (ids). */
export function toggle(selection: Selection, order: number[], id: number, through: boolean): Selection {
  const from = selection.last === null ? -1 : order.indexOf(selection.last);
  const to = order.indexOf(id);
  const chosen = new Set(selection.chosen);
  if (through && from >= 0 && to >= 0)
    for (const one of order.slice(Math.min(from, to), Math.max(from, to) + 1)) chosen.add(one);
  else if (!chosen.delete(id)) chosen.add(id);
  return { chosen, last: id };
}

/** What of it is in sight: what a filter has put out of sight is not chosen any more. The same set while nothing is missing. */
export function inSight(selection: Selection, order: number[]): ReadonlySet<number> {
  const seen = order.filter((id) => selection.chosen.has(id));
  return seen.length === selection.chosen.size ? selection.chosen : new Set(seen);
}
