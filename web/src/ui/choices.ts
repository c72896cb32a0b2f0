import type { ReactNode } from "react";

/** One of several to choose from: its words, what stands before them, and what there is to add, by which it is found too. */
export type Choice<Value = string> = { value: Value; words: string; mark?: ReactNode; more?: string };

/** More than so many choices are found by typing. */
export const MANY = 30;
/** Of those that fit so many are drawn. */
export const SHOWN = 60;

/** Those of which what was typed is a part, word by word in any order; `first` before the others, else as they were. */
export function fittingChoices<One extends Choice<unknown>>(
  choices: One[],
  typed: string,
  first: ReadonlySet<One["value"]>,
): One[] {
  const words = typed.trim().toLowerCase().split(/\s+/);
  const said = (one: One) => `${one.words} ${one.more ?? ""}`.toLowerCase();
  const fit = choices.filter((one) => words.every((word) => said(one).includes(word)));
  return [...fit.filter((one) => first.has(one.value)), ...fit.filter((one) => !first.has(one.value))];
}
