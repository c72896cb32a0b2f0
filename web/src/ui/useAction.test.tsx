// @vitest-environment happy-dom
import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { act, renderHook, waitFor } from "@testing-library/react";
import type { ReactNode } from "react";
import { expect, test, vi } from "vitest";
import { Problem } from "@/api/client";
import { brandKey } from "@/data/keys";
import { toaster, undoNewest } from "./toasts";
import { useAction } from "./useAction";

/** The newest message. */
const told = () => toaster.getVisibleToasts()[0];

/** A page that shows the relays and what it is told, and does something to them. */
function page() {
  const queries = new QueryClient({ defaultOptions: { queries: { staleTime: Number.POSITIVE_INFINITY } } });
  const relays = vi.fn(async () => "board");
  const labels = vi.fn(async () => "labels");
  const shown = renderHook(
    () => {
      useQuery({ queryKey: brandKey("relays", "garden", "board"), queryFn: relays });
      useQuery({ queryKey: brandKey("labels", "garden"), queryFn: labels });
      return useAction("garden", ["relay"]);
    },
    {
      wrapper: ({ children }: { children: ReactNode }) => (
        <QueryClientProvider client={queries}>{children}</QueryClientProvider>
      ),
    },
  );
  return { shown, relays, labels };
}

test("what was done is said, can be undone, and what it made old is read again, nothing else", async () => {
  const { shown, relays, labels } = page();
  await waitFor(() => expect(relays).toHaveBeenCalledTimes(1));
  const undo = vi.fn(async () => undefined);
  await act(async () => expect(await shown.result.current(async () => 7, "Switched on.", undo)).toEqual({ came: 7 }));
  expect(told()).toMatchObject({ title: "Switched on." });
  expect([relays.mock.calls.length, labels.mock.calls.length]).toEqual([2, 1]);
  act(() => void undoNewest());
  expect(undo).toHaveBeenCalledTimes(1);
});

test("what stood in the way is said in the words of its field, and how it stands is read again", async () => {
  const { shown, relays } = page();
  await waitFor(() => expect(relays).toHaveBeenCalledTimes(1));
  const faults = [{ pointer: "/days", detail: "Choose a day.", code: "none" }];
  const refused = async () => Promise.reject(new Problem(422, "Not so.", faults));
  await act(async () => expect(await shown.result.current(refused, "Done.")).toBeUndefined());
  expect(told()).toMatchObject({ title: "Choose a day.", type: "error" });
  expect(relays).toHaveBeenCalledTimes(2);
});
