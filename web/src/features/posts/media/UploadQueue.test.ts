import { expect, test, vi } from "vitest";
import { Problem } from "@/api/client";
import { UploadQueue } from "./UploadQueue";

const file = (name: string) => new File(["x"], name);

/** A server that takes one file at a time, and what it was sent. */
function server() {
  const waiting: { name: string; progress: (part: number) => void; take: () => void; refuse: (e: Error) => void }[] =
    [];
  const done: string[] = [];
  const queue = new UploadQueue<string>(
    (sent, progress) =>
      new Promise((take, refuse) =>
        waiting.push({ name: sent.name, progress, take: () => take(sent.name), refuse: (e) => refuse(e) }),
      ),
    (name) => done.push(name),
  );
  const shown = () => queue.snapshot().map((one) => [one.name, one.wrong ?? one.part]);
  return { queue, waiting, done, shown };
}

test("files go one after another, each gone from the list when it is there", async () => {
  const { queue, waiting, done, shown } = server();
  const told = vi.fn();
  const end = queue.subscribe(told);
  const all = queue.add([file("a.jpg"), file("b.jpg")]);
  waiting[0]?.progress(0.5);
  expect(shown()).toEqual([
    ["a.jpg", 0.5],
    ["b.jpg", 0],
  ]);
  expect(waiting).toHaveLength(1);
  waiting[0]?.take();
  await vi.waitFor(() => expect(waiting).toHaveLength(2));
  waiting[1]?.take();
  await all;
  expect([shown(), done]).toEqual([[], ["a.jpg", "b.jpg"]]);
  const count = told.mock.calls.length;
  end();
  queue.drop(0);
  expect(told).toHaveBeenCalledTimes(count);
});

test("one that fails says why and leaves the others be; tried again, it goes without being chosen anew", async () => {
  const { queue, waiting, done, shown } = server();
  const all = queue.add([file("a.jpg"), file("b.jpg")]);
  waiting[0]?.refuse(new Problem(422, "“a.jpg” is no picture."));
  await vi.waitFor(() => expect(waiting).toHaveLength(2));
  waiting[1]?.refuse(new Error("?"));
  await all;
  expect(shown()).toEqual([
    ["a.jpg", "“a.jpg” is no picture."],
    ["b.jpg", "“b.jpg” could not be added."],
  ]);
  const again = queue.again(queue.snapshot()[0]?.id ?? 0);
  expect(shown()[0]).toEqual(["a.jpg", 0]);
  waiting[2]?.take();
  await again;
  expect([shown().length, done]).toEqual([1, ["a.jpg"]]);
  await queue.again(-1);
  expect(waiting).toHaveLength(3);
});

test("what failed makes room for what is added then; what is left out goes", async () => {
  const { queue, waiting, shown } = server();
  const first = queue.add([file("a.jpg")]);
  waiting[0]?.refuse(new Error("?"));
  await first;
  void queue.add([file("b.jpg"), file("c.jpg")]);
  expect(shown().map(([name]) => name)).toEqual(["b.jpg", "c.jpg"]);
  queue.drop(queue.snapshot()[1]?.id ?? 0);
  expect(shown().map(([name]) => name)).toEqual(["b.jpg"]);
});
