import { expect, test } from "vitest";
import { fittingChoices } from "./choices";

const choices = ["Aldaba stall 1", "Breva stall 12", "Noria", "Ácido"].map((words, n) => ({ value: String(n), words }));
const found = (typed: string, first: string[] = []) =>
  fittingChoices(choices, typed, new Set(first)).map((one) => one.words);

test("choices are found by parts of their words, in any order and in either case", () => {
  expect(found("STALL 1")).toEqual(["Aldaba stall 1", "Breva stall 12"]);
  expect(found(" 12 breva ")).toEqual(["Breva stall 12"]);
  expect(found("stall noria")).toEqual([]);
});

test("what is chosen stands first, the others as they were", () => {
  expect(found("", ["2"])).toEqual(["Noria", "Aldaba stall 1", "Breva stall 12", "Ácido"]);
});

test("a choice is found by what is added to it, beside its words", () => {
  const two = ["Plaza", "Brisk"].map((more, n) => ({ value: n, words: "Hogaza", more }));
  expect(fittingChoices(two, "hogaza bri", new Set())).toEqual([two[1]]);
});
