// @vitest-environment happy-dom
import { act, renderHook } from "@testing-library/react";
import { expect, test } from "vitest";
import { Problem } from "@/api/client";
import { useForm } from "./useForm";

const FAULTS = [{ pointer: "/name", detail: "There is one of that name.", code: "taken" }];

test("a form is busy while it is sent, and what came back wrong stands at its field until it is sent again", async () => {
  const { result } = renderHook(useForm);
  let refuse = (_: Error) => {};
  let fine: Promise<boolean> | undefined;
  act(() => {
    fine = result.current.send(
      () =>
        new Promise((_, no) => {
          refuse = no;
        }),
    );
  });
  expect(result.current.busy).toBe(true);
  await act(async () => {
    refuse(new Problem(422, "One field is not right.", FAULTS));
    expect(await fine).toBe(false);
  });
  expect(result.current.busy).toBe(false);
  expect(result.current.at("/name")).toBe("There is one of that name.");
  expect(result.current.loose("/name", "/zone")).toBe("");
  // A form that doesn't show the field says it above.
  expect(result.current.loose("/zone")).toBe("One field is not right.");
  await act(async () => expect(await result.current.send(async () => 3)).toBe(true));
  expect([result.current.problem, result.current.loose("/zone")]).toEqual([null, ""]);
});

test("what is no problem of the form's is not swallowed, and the form can be used again", async () => {
  const { result } = renderHook(useForm);
  await act(async () => {
    await expect(result.current.send(() => Promise.reject(new TypeError("x is not a function")))).rejects.toThrow(
      "x is not",
    );
  });
  expect(result.current.busy).toBe(false);
});
