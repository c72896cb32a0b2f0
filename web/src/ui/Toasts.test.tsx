// @vitest-environment happy-dom
import { ChakraProvider } from "@chakra-ui/react";
import { act, cleanup, configure, render, screen, waitFor } from "@testing-library/react";
import userEvent from "@testing-library/user-event";
import { afterEach, expect, test, vi } from "vitest";
import { system } from "@/app/theme";
import { Toasts } from "./Toasts";
import { toast, toaster, undoNewest } from "./toasts";

afterEach(() => {
  act(() => toaster.remove());
  cleanup();
});

configure({ asyncUtilTimeout: 10_000 });

const page = () =>
  render(
    <ChakraProvider value={system}>
      <Toasts />
    </ChakraProvider>,
  );
function undo(): boolean {
  let was = false;
  act(() => {
    was = undoNewest();
  });
  return was;
}
const say = (...said: Parameters<typeof toast>) => act(() => toast(...said));

test("the newest that can be undone is undone, once, and nothing when there is none", async () => {
  page();
  const [older, newer] = [vi.fn(async () => {}), vi.fn(async () => {})];
  say("Moved", { undo: older });
  say("Called off", { undo: newer });
  say("Kept");
  await screen.findByText("Kept");
  expect(undo()).toBe(true);
  expect([newer.mock.calls.length, older.mock.calls.length]).toEqual([1, 0]);
  await waitFor(() => expect(screen.queryByText("Called off")).toBeNull());
  expect(undo()).toBe(true);
  expect(older).toHaveBeenCalledTimes(1);
  expect(undo()).toBe(false);
});

test("pressed, Undo undoes and the message goes; dismissed, it can be undone no more", async () => {
  page();
  const [pressed, dismissed] = [vi.fn(async () => {}), vi.fn(async () => {})];
  say("Moved", { undo: pressed });
  await userEvent.click(await screen.findByRole("button", { name: /Undo/ }));
  expect(pressed).toHaveBeenCalledTimes(1);
  await waitFor(() => expect(screen.queryByText("Moved")).toBeNull());
  say("Called off", { undo: dismissed });
  await userEvent.click(await screen.findByRole("button", { name: "Dismiss" }));
  await waitFor(() => expect(screen.queryByText("Called off")).toBeNull());
  expect(undo()).toBe(false);
  expect(dismissed).not.toHaveBeenCalled();
});

test("the newest is never kept waiting: the oldest makes room", async () => {
  page();
  for (const words of ["One", "Two", "Three", "Four"]) say(words);
  await screen.findByText("Four");
  await waitFor(() => expect(screen.queryByText("One")).toBeNull());
  expect(screen.getByText("Two")).toBeTruthy();
});
