import { type Post, type PostIn, Problem } from "@/api/client";
import { type Draft, fromPost, isEmpty, toPostIn } from "../draft";

export type SaveState = "kept" | "changed" | "keeping" | "failed";

/** What a Bench shows of its draft and of how far it is kept. A new object whenever something of it changes. */
export type Snapshot = {
  draft: Draft;
  saved: SaveState;
  problem: Problem | null;
  /** What stands at the server where somebody else wrote meanwhile; one chooses, and nothing is saved until then. */
  clash: Post | null;
  id: number | null;
};

/** The server, the browser's own store for what can't be saved just now, and who is told. */
export type Surroundings = {
  create: (body: PostIn) => Promise<Post>;
  update: (post: Post, body: PostIn) => Promise<Post>;
  store: (id: number | null, draft: Draft) => void;
  clear: (id: number | null) => void;
  /** A post was saved; `first`: it has an address now, and the Bench is open still. */
  onSaved: (post: Post, first: boolean) => void;
  onProblem: (problem: Problem) => void;
};

const PAUSE_MS = 700;
const AGAIN_MS = 4000;

/**
 * Saves what is typed on a Bench: by itself after a pause, or at once when something is to be done with what was typed.
 * One thing is done at a time, in turn, each from the revision that the one before left; so whoever waits for a save is
 * given the post with all that was typed when they asked. What can't be saved stays in the browser and is tried again.
 */
export class SaveQueue {
  private state: Snapshot;
  private readonly listeners = new Set<() => void>();
  private tail: Promise<unknown> = Promise.resolve();
  private timer?: ReturnType<typeof setTimeout>;
  private busy = 0;
  private dirty: boolean;
  private left = false;

  /** `unsaved`: what an earlier visit could not save. */
  constructor(
    private post: Post | null,
    first: Draft,
    unsaved: Draft | null,
    private readonly around: Surroundings,
  ) {
    this.dirty = unsaved !== null;
    this.state = {
      draft: unsaved ?? first,
      saved: unsaved ? "changed" : "kept",
      problem: null,
      clash: null,
      id: post?.id ?? null,
    };
    if (this.dirty) this.schedule(PAUSE_MS);
  }

  readonly subscribe = (listener: () => void): (() => void) => {
    this.listeners.add(listener);
    return () => this.listeners.delete(listener);
  };

  readonly snapshot = (): Snapshot => this.state;

  readonly draft = (): Draft => this.state.draft;

  readonly change = (how: (draft: Draft) => Draft): void => {
    this.dirty = true;
    this.set({ draft: how(this.state.draft), saved: "changed" });
    this.around.store(this.state.id, this.state.draft);
    if (!this.state.clash) this.schedule(PAUSE_MS);
  };

  /** Save what was typed until now. The post as it stands then; null when there is nothing to make a post of. */
  readonly flush = (): Promise<Post | null> => this.inTurn(() => this.save());

  /** Save what was typed, then do something with the post at the server: nothing is saved in between. */
  readonly after = (act: (post: Post) => Promise<Post>): Promise<Post | null> =>
    this.inTurn(async () => {
      const post = await this.save();
      if (post) this.post = await act(post);
      return this.post;
    });

  /** The server's state was read again: taken over unless something here is newer. */
  readonly adopt = (fresh: Post): void => {
    if (!this.post || fresh.id !== this.post.id || fresh.revision < this.post.revision) return;
    if (this.dirty || this.busy > 0) return;
    const moved = fresh.revision > this.post.revision;
    this.post = fresh;
    if (moved) this.set({ draft: fromPost(fresh) });
  };

  /** Two people at one post: take what stands, or put one's own over it. */
  readonly settle = (mine: boolean): void => {
    const { clash } = this.state;
    if (!clash) return;
    if (!mine) {
      this.replace(clash);
      return;
    }
    this.post = clash;
    this.set({ clash: null, problem: null, saved: "changed" });
    this.schedule(PAUSE_MS);
  };

  /** The post was changed at the server by one's own wish: that is what stands. */
  readonly replace = (fresh: Post): void => {
    clearTimeout(this.timer);
    this.post = fresh;
    this.dirty = false;
    this.around.clear(fresh.id);
    this.set({ draft: fromPost(fresh), saved: "kept", problem: null, clash: null, id: fresh.id });
  };

  /** The Bench is left: what the pause would have saved is saved now, and nobody is led back. */
  readonly leave = (): void => {
    this.left = true;
    clearTimeout(this.timer);
    if (this.dirty && !this.state.clash) void this.flush().catch(() => undefined);
  };

  /** The Bench is there again, after all. */
  readonly enter = (): void => {
    this.left = false;
    if (this.dirty && !this.state.clash) this.schedule(PAUSE_MS);
  };

  private inTurn<T>(step: () => Promise<T>): Promise<T> {
    clearTimeout(this.timer);
    this.busy += 1;
    const turn = this.tail.then(step).finally(() => {
      this.busy -= 1;
    });
    this.tail = turn.catch(() => undefined);
    return turn;
  }

  private async save(): Promise<Post | null> {
    const { draft, clash } = this.state;
    if (clash) throw new Problem(412, "Someone changed this post while you were writing. Choose first which stands.");
    if (!this.dirty) return this.post;
    if (!this.post && isEmpty(draft) && draft.profiles.length === 0) return null;
    const before = this.post;
    this.dirty = false;
    this.set({ saved: "keeping" });
    try {
      const body = toPostIn(draft);
      const saved = before ? await this.around.update(before, body) : await this.around.create(body);
      this.post = saved;
      this.around.clear(before?.id ?? null);
      if (this.dirty) {
        this.around.store(saved.id, this.state.draft);
        this.schedule(PAUSE_MS);
      }
      this.set({ saved: this.dirty ? "changed" : "kept", problem: null, id: saved.id });
      this.around.onSaved(saved, before === null && !this.left);
      return saved;
    } catch (error) {
      this.dirty = true;
      const problem = error instanceof Problem ? error : new Problem(0, String(error));
      const present = problem.status === 412 ? (problem.present as Post | null) : null;
      this.set({ saved: "failed", problem, clash: present });
      this.around.onProblem(problem);
      // A refusal of what was typed ends when something else is typed; all else may pass by itself.
      const passes = problem.status === 0 || problem.status >= 500 || problem.status === 401;
      if (!present && passes) this.schedule(AGAIN_MS);
      throw problem;
    }
  }

  private schedule(pause: number): void {
    clearTimeout(this.timer);
    if (this.left) return;
    this.timer = setTimeout(() => void this.flush().catch(() => undefined), pause);
  }

  private set(change: Partial<Snapshot>): void {
    this.state = { ...this.state, ...change };
    for (const listener of this.listeners) listener();
  }
}
