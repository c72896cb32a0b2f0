// @vitest-environment happy-dom
import { expect, test } from "vitest";
import { moveFocus } from "./roving";

/** Two rows of three columns; the number says how many cards a cell has, each before the cell's own stop. */
function grid(): HTMLElement {
  const cells = [
    [0, 2, 0],
    [1, 0, 0],
  ];
  document.body.innerHTML = `<div data-columns="3">${cells
    .map((row, r) =>
      row
        .map((cards, c) => {
          const stops = Array.from({ length: cards }, (_, n) => `<button data-stop id="${r}${c}.${n}"></button>`).join(
            "",
          );
          return `<div data-row="${r}" data-column="${c}">${stops}<button data-stop id="${r}${c}"></button></div>`;
        })
        .join(""),
    )
    .join("")}</div>`;
  return document.body.firstElementChild as HTMLElement;
}

function walk(from: string, ...keys: string[]): string {
  const board = grid();
  document.getElementById(from)?.focus();
  for (const key of keys) moveFocus(board, key);
  return document.activeElement?.id ?? "";
}

test("arrows go over columns, through a cell's cards and then by row; Home and End to the ends", () => {
  expect(walk("00", "ArrowRight")).toBe("01.0");
  expect(walk("01.0", "ArrowDown")).toBe("01.1");
  expect(walk("01.0", "ArrowDown", "ArrowDown", "ArrowDown")).toBe("11");
  expect(walk("11", "ArrowUp")).toBe("01");
  expect(walk("01", "Home")).toBe("00");
  expect(walk("00", "End")).toBe("02");
});

test("where there is nowhere to go, it stays", () => {
  expect(walk("00", "ArrowLeft")).toBe("00");
  expect(walk("02", "ArrowRight")).toBe("02");
  expect(walk("00", "ArrowUp")).toBe("00");
  expect(walk("12", "ArrowDown")).toBe("12");
  const board = grid();
  document.body.focus();
  expect([moveFocus(board, "ArrowRight"), moveFocus(board, "x")]).toEqual([false, false]);
});
