// @vitest-environment happy-dom
import { act, cleanup, fireEvent, render } from "@testing-library/react";
import { useState } from "react";
import { afterEach, expect, test } from "vitest";
import { useTypedText } from "./useTypedText";

afterEach(cleanup);

let put = (_: string) => {};

function Cell({ value, change }: { value: string; change: (text: string) => void }) {
  const [text, type] = useTypedText(value, change);
  return <textarea aria-label="Text" value={text} onChange={(event) => type(event.currentTarget.value)} />;
}
function Bench({ say }: { say: (text: string) => string }) {
  const [text, setText] = useState("Moss");
  put = setText;
  return <Cell value={text} change={(next) => setText(say(next))} />;
}
const typed = (area: HTMLElement, value: string) => fireEvent.change(area, { target: { value } });

test("what is typed is shown and told; what comes from elsewhere is taken over", () => {
  const area = render(<Bench say={(text) => text} />).getByLabelText("Text") as HTMLTextAreaElement;
  typed(area, "Moss a");
  typed(area, "Moss ag");
  expect(area.value).toBe("Moss ag");
  act(() => put("Ferns"));
  expect(area.value).toBe("Ferns");
  typed(area, "Ferns!");
  expect(area.value).toBe("Ferns!");
});

test("a draft that makes another text of it is believed", () => {
  const area = render(<Bench say={(text) => text.toUpperCase()} />).getByLabelText("Text") as HTMLTextAreaElement;
  typed(area, "moss a");
  expect(area.value).toBe("MOSS A");
});
