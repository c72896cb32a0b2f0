/** Arrow keys among cells and cards: left and right by column, up and down through the cards of a cell and then by row. */

const STOPS = "[data-stop]";

function stops(grid: HTMLElement, row: number, column: number): HTMLElement[] {
  return [...grid.querySelectorAll<HTMLElement>(`[data-row="${row}"][data-column="${column}"] ${STOPS}`)];
}

/** Move the focus for a key; false when the key isn't one of ours or there is nowhere to go. */
export function moveFocus(grid: HTMLElement, key: string): boolean {
  const at = document.activeElement;
  const cell = at?.closest<HTMLElement>("[data-row]");
  if (!(at instanceof HTMLElement) || !cell) return false;
  const row = Number(cell.dataset.row);
  const column = Number(cell.dataset.column);
  const here = stops(grid, row, column);
  const place = here.indexOf(at);
  const last = Number(grid.dataset.columns ?? 14) - 1;
  let next: HTMLElement | undefined;
  if (key === "ArrowLeft" || key === "ArrowRight") next = stops(grid, row, column + (key === "ArrowLeft" ? -1 : 1))[0];
  else if (key === "ArrowDown") next = here[place + 1] ?? stops(grid, row + 1, column)[0];
  else if (key === "ArrowUp") next = here[place - 1] ?? stops(grid, row - 1, column).at(-1);
  else if (key === "Home") next = stops(grid, row, 0)[0];
  else if (key === "End") next = stops(grid, row, last)[0];
  next?.focus();
  return next !== undefined;
}
