// @vitest-environment happy-dom
import { fireEvent, render, screen } from "@testing-library/react";
import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { useRest } from "./useRest";

beforeEach(() => void vi.useFakeTimers());
afterEach(() => void vi.useRealTimers());

function Board({ peek }: { peek: (at: HTMLElement | null) => void }) {
  const over = useRest(peek);
  return (
    <section aria-label="board" {...over}>
      <button type="button" data-ticket="1">
        Moss
      </button>
    </section>
  );
}

test("a card that is rested on is peeked at, unless a key is pressed meanwhile", () => {
  const peek = vi.fn();
  render(<Board peek={peek} />);
  const card = screen.getByRole("button", { name: "Moss" });
  fireEvent.pointerOver(card, { pointerType: "mouse" });
  vi.advanceTimersByTime(400);
  expect(peek).not.toHaveBeenCalled();
  vi.advanceTimersByTime(60);
  expect(peek).toHaveBeenLastCalledWith(card);
  peek.mockClear();
  fireEvent.pointerLeave(screen.getByRole("region"));
  fireEvent.pointerOver(card, { pointerType: "mouse" });
  fireEvent.keyDown(card, { key: "Escape" });
  vi.advanceTimersByTime(1000);
  expect(peek).not.toHaveBeenCalled();
});
