import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { LiveLine, type Message, type Surroundings } from "./LiveLine";

/** A stream of events that a test speaks through. */
class Source extends EventTarget {
  static all: Source[] = [];
  readyState = 1;
  constructor(readonly address: string) {
    super();
    Source.all.push(this);
  }
  say(name: string, data: unknown = {}): void {
    this.dispatchEvent(new MessageEvent(name, { data: JSON.stringify(data) }));
  }
  refuse(): void {
    this.readyState = 2;
    this.dispatchEvent(new Event("error"));
  }
  close(): void {
    this.readyState = 2;
  }
}

const browser: Surroundings = {
  source: (address) => new Source(address) as unknown as EventSource,
  locks: navigator.locks,
  channel: (name) => new BroadcastChannel(name),
};
const change = { kind: "post", id: 7 };
const lines: LiveLine[] = [];

let brand = 0;

function window_(surroundings = browser): Message[] {
  const heard: Message[] = [];
  lines.push(new LiveLine(`garden-${brand}`, (message) => heard.push(message), surroundings));
  return heard;
}

const open = () => Source.all.filter((source) => source.readyState === 1);
const settled = async (wanted: () => void) => vi.waitFor(wanted, { timeout: 2000, interval: 5 });

beforeEach(() => {
  brand += 1;
  Source.all = [];
});

afterEach(() => {
  vi.useRealTimers();
  for (const line of lines.splice(0)) line.close();
});

test("two dozen windows share one line, and all hear what it says", async () => {
  const windows = Array.from({ length: 24 }, () => window_());
  await settled(() => expect(open()).toHaveLength(1));
  open()[0]?.say("ready");
  open()[0]?.say("listeners", 3);
  open()[0]?.say("change", change);
  const heard = [{ listeners: 3 }, change];
  await settled(() => expect(windows.map((all) => all.slice(-2))).toEqual(windows.map(() => heard)));
  expect(Source.all).toHaveLength(1);
  // Nothing was missed: nobody has to read everything again.
  expect(windows.flat()).not.toContain("broken");
});

test("when the window with the line closes, another takes it over, and all read again what they may have missed", async () => {
  const [, second, third] = [window_(), window_(), window_()] as const;
  await settled(() => expect(open()).toHaveLength(1));
  open()[0]?.say("ready");
  lines[0]?.close();
  await settled(() => expect(open()).toHaveLength(1));
  expect(Source.all).toHaveLength(2);
  open()[0]?.say("ready");
  await settled(() => expect([second, third]).toEqual([["broken"], ["broken"]]));
});

test("after a break everything is read again; at the beginning it is not", async () => {
  const heard = window_();
  await settled(() => expect(open()).toHaveLength(1));
  open()[0]?.say("ready");
  expect(heard).toEqual([]);
  open()[0]?.say("ready");
  expect(heard).toEqual(["broken"]);
});

test("a refused line is tried again, ever more seldom", () => {
  vi.useFakeTimers();
  window_({ source: browser.source });
  Source.all[0]?.refuse();
  vi.advanceTimersByTime(4_999);
  expect(Source.all).toHaveLength(1);
  vi.advanceTimersByTime(1);
  expect(Source.all).toHaveLength(2);
  Source.all[1]?.refuse();
  vi.advanceTimersByTime(9_999);
  expect(Source.all).toHaveLength(2);
  vi.advanceTimersByTime(1);
  Source.all[2]?.say("ready");
  Source.all[2]?.refuse();
  vi.advanceTimersByTime(5_000);
  expect(Source.all).toHaveLength(4);
  lines[0]?.close();
  vi.advanceTimersByTime(600_000);
  expect(Source.all).toHaveLength(4);
});
