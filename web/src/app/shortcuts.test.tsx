// @vitest-environment happy-dom
import { fireEvent, render } from "@testing-library/react";
import { expect, test, vi } from "vitest";
import { useShortcuts } from "./shortcuts";

function Page({ keys, open }: { keys: Record<string, () => void>; open?: boolean }) {
  useShortcuts(keys);
  return (
    <>
      <input aria-label="Words" />
      <div role="dialog" data-state={open ? "open" : "closed"} />
    </>
  );
}

test("a key does what it says, but not while one types, with a modifier, or above an open dialog", () => {
  const go = vi.fn();
  const keys = { n: go };
  const page = render(<Page keys={keys} />);
  expect(fireEvent.keyDown(document.body, { key: "n" })).toBe(false);
  fireEvent.keyDown(document.body, { key: "x" });
  fireEvent.keyDown(page.getByLabelText("Words"), { key: "n" });
  for (const modifier of ["ctrlKey", "metaKey", "altKey"])
    fireEvent.keyDown(document.body, { key: "n", [modifier]: true });
  expect(go).toHaveBeenCalledTimes(1);
  page.rerender(<Page keys={keys} open />);
  fireEvent.keyDown(document.body, { key: "n" });
  page.unmount();
  fireEvent.keyDown(document.body, { key: "n" });
  expect(go).toHaveBeenCalledTimes(1);
});
