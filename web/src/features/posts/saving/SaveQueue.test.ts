import { afterEach, beforeEach, expect, test, vi } from "vitest";
import { type Post, type PostIn, Problem } from "@/api/client";
import { type Draft, EMPTY, withMaster } from "../draft";
import { SaveQueue, type Surroundings } from "./SaveQueue";

/** A server whose answers a test gives one by one; it refuses a write from an older revision, as ours does. */
class Server implements Surroundings {
  waiting: { body: PostIn; answer: () => void; fail: (problem: Problem) => void }[] = [];
  post: Post | null = null;
  stored = new Map<number | null, Draft>();
  madeKnown: number[] = [];
  problems: number[] = [];
  create = (body: PostIn) => this.ask(body, null);
  update = (from: Post, body: PostIn) => this.ask(body, from);
  store = (id: number | null, draft: Draft) => void this.stored.set(id, draft);
  clear = (id: number | null) => void this.stored.delete(id);
  onSaved = (post: Post, first: boolean) => {
    if (first) this.madeKnown.push(post.id);
  };
  onProblem = (problem: Problem) => void this.problems.push(problem.status);

  private ask(body: PostIn, from: Post | null): Promise<Post> {
    return new Promise((resolve, reject) => {
      const answer = () => {
        if (from && from.revision !== this.post?.revision) {
          reject(new Problem(412, "stale", [], this.post));
          return;
        }
        this.post = made(body.master.text ?? "", (this.post?.revision ?? 0) + 1);
        resolve(this.post);
      };
      this.waiting.push({ body, answer, fail: reject });
    });
  }

  async next(problem?: Problem): Promise<string> {
    await vi.waitFor(() => expect(this.waiting).toHaveLength(1), { interval: 1 });
    const [one] = this.waiting.splice(0);
    if (problem) one?.fail(problem);
    else one?.answer();
    await settled();
    return one?.body.master.text ?? "";
  }
}

const made = (text: string, revision: number): Post =>
  ({
    id: 7,
    revision,
    title: "",
    master: { text },
    versions: [],
    deliveries: [],
    labels: [],
    campaign: null,
    assets: [],
  }) as unknown as Post;
const typed = (text: string) => (draft: Draft) => withMaster(draft, { text });
const settled = () => vi.advanceTimersByTimeAsync(0);

let server: Server;
let queue: SaveQueue;

function begin(post: Post | null = null, unsaved: Draft | null = null): void {
  server = new Server();
  server.post = post;
  queue = new SaveQueue(post, post ? { ...EMPTY, master: post.master } : EMPTY, unsaved, server);
  queue.enter();
}

beforeEach(() => {
  vi.useFakeTimers();
  begin();
});
afterEach(() => vi.useRealTimers());

test("what is typed is saved by itself after a pause, and made known once", async () => {
  queue.change(typed("M"));
  await vi.advanceTimersByTimeAsync(600);
  queue.change(typed("Moss"));
  await vi.advanceTimersByTimeAsync(699);
  expect(server.waiting).toHaveLength(0);
  await vi.advanceTimersByTimeAsync(1);
  expect(queue.snapshot().saved).toBe("keeping");
  expect(await server.next()).toBe("Moss");
  expect(queue.snapshot()).toMatchObject({ saved: "kept", id: 7 });
  queue.change(typed("Moss and ferns"));
  await vi.advanceTimersByTimeAsync(700);
  await server.next();
  expect(server.madeKnown).toEqual([7]);
  expect(server.stored.size).toBe(0);
});

test("leaving a new post before it was saved saves it, and leads nobody back to it", async () => {
  queue.change(typed("Begun"));
  queue.leave();
  expect(await server.next()).toBe("Begun");
  expect(server.post?.revision).toBe(1);
  expect(server.madeKnown).toEqual([]);
});

test("leaving while the first save is on its way leads nobody back either", async () => {
  queue.change(typed("Begun"));
  await vi.advanceTimersByTimeAsync(700);
  queue.leave();
  await server.next();
  expect(server.madeKnown).toEqual([]);
});

test("of two that wait for a save each gets the post with all that was typed when it asked", async () => {
  queue.change(typed("One"));
  const first = queue.flush();
  await settled();
  queue.change(typed("One, two"));
  const second = queue.flush();
  const third = queue.flush();
  expect(await server.next()).toBe("One");
  expect(await server.next()).toBe("One, two");
  expect((await first)?.revision).toBe(1);
  // Before, the third was given the revision of the first, and planned from it.
  expect([(await second)?.revision, (await third)?.revision]).toEqual([2, 2]);
  expect(server.waiting).toHaveLength(0);
});

test("nothing is saved between saving what was typed and what is done with it", async () => {
  begin(made("One", 1));
  queue.change(typed("One, two"));
  const seen: string[] = [];
  const done = queue.after(async (post) => {
    seen.push(`planned from ${post.revision}`);
    queue.change(typed("Typed meanwhile"));
    await vi.advanceTimersByTimeAsync(5_000);
    server.post = made("One, two", post.revision + 1);
    return server.post;
  });
  await server.next();
  expect((await done)?.revision).toBe(3);
  expect(seen).toEqual(["planned from 2"]);
  await vi.advanceTimersByTimeAsync(700);
  // From the revision that planning left: nobody clashes with oneself.
  expect(await server.next()).toBe("Typed meanwhile");
  expect(queue.snapshot().clash).toBeNull();
});

test("what can't be saved is tried again, and stays in the browser until it can", async () => {
  queue.change(typed("Moss"));
  const waits = queue.flush();
  const refused = expect(waits).rejects.toMatchObject({ status: 503 });
  await server.next(new Problem(503, "away"));
  await refused;
  expect(queue.snapshot()).toMatchObject({ saved: "failed", problem: { status: 503 } });
  expect(server.stored.get(null)?.master.text).toBe("Moss");
  await vi.advanceTimersByTimeAsync(4_000);
  await server.next();
  expect(queue.snapshot()).toMatchObject({ saved: "kept", problem: null });
  expect(server.stored.size).toBe(0);
});

test("what is refused isn't sent again until something else is typed", async () => {
  queue.change(typed("Half a character \ud83c"));
  await vi.advanceTimersByTimeAsync(700);
  await server.next(new Problem(422, "lone surrogate"));
  await vi.advanceTimersByTimeAsync(60_000);
  expect(server.waiting).toHaveLength(0);
  queue.change(typed("Whole"));
  await vi.advanceTimersByTimeAsync(700);
  expect(await server.next()).toBe("Whole");
});

test("a clash waits for a choice: mine is saved over theirs, from their revision", async () => {
  begin(made("One", 1));
  server.post = made("Theirs", 2);
  queue.change(typed("Mine"));
  await vi.advanceTimersByTimeAsync(700);
  await server.next();
  expect(queue.snapshot().clash?.master.text).toBe("Theirs");
  queue.change(typed("Mine, still"));
  await vi.advanceTimersByTimeAsync(60_000);
  await expect(queue.flush()).rejects.toMatchObject({ status: 412 });
  expect(server.waiting).toHaveLength(0);
  queue.settle(true);
  await vi.advanceTimersByTimeAsync(700);
  expect(await server.next()).toBe("Mine, still");
  expect(queue.snapshot()).toMatchObject({ saved: "kept", clash: null });
});

test("a clash waits for a choice: theirs is taken over and mine is gone from the browser", async () => {
  begin(made("One", 1));
  server.post = made("Theirs", 2);
  queue.change(typed("Mine"));
  await vi.advanceTimersByTimeAsync(700);
  await server.next();
  queue.settle(false);
  await vi.advanceTimersByTimeAsync(60_000);
  expect(queue.snapshot()).toMatchObject({ saved: "kept", clash: null, draft: { master: { text: "Theirs" } } });
  expect([server.waiting.length, server.stored.size]).toEqual([0, 0]);
});

test("others' changes are taken over, unless something here is newer", async () => {
  begin(made("One", 1));
  queue.adopt(made("Theirs", 2));
  expect(queue.draft().master.text).toBe("Theirs");
  queue.change(typed("Mine"));
  queue.adopt(made("Theirs again", 3));
  expect(queue.draft().master.text).toBe("Mine");
});

test("what an earlier visit could not save is saved when one comes back", async () => {
  begin(made("One", 1), withMaster(EMPTY, { text: "Typed without a line" }));
  expect(queue.snapshot().saved).toBe("changed");
  await vi.advanceTimersByTimeAsync(700);
  expect(await server.next()).toBe("Typed without a line");
});

test("an empty new post is no post", async () => {
  expect(await queue.flush()).toBeNull();
  queue.change((draft) => ({ ...draft, profiles: [] }));
  expect(await queue.flush()).toBeNull();
  expect(server.waiting).toHaveLength(0);
});
