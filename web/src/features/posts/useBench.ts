import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, got, ifMatch, type Post, Problem } from "@/api/client";
import { say } from "@/ui/notices";
import { type Draft, fromPost, isEmpty, stash, stashed, toPostIn, unstash } from "./draft";

const PAUSE_MS = 700;
const AGAIN_MS = 4000;

export type Kept = "kept" | "changed" | "keeping" | "failed";

/**
 * The state of one Bench: the draft, and keeping it. Keeping happens by itself after a pause, one write at a
 * time; what can't be kept stays in the browser and is tried again.
 */
export function useBench(brand: string, loaded: Post | null, first: Draft, onMade: (id: number) => void) {
  const queries = useQueryClient();
  const [draft, setDraft] = useState<Draft>(() => stashed(brand, loaded?.id ?? null) ?? first);
  const [kept, setKept] = useState<Kept>(() => (stashed(brand, loaded?.id ?? null) ? "changed" : "kept"));
  const [problem, setProblem] = useState<Problem | null>(null);
  const [clash, setClash] = useState<Post | null>(null);
  const post = useRef<Post | null>(loaded);
  const newest = useRef(draft);
  const dirty = useRef(kept === "changed");
  const writing = useRef<Promise<Post | null> | null>(null);

  const change = useCallback(
    (how: (draft: Draft) => Draft) => {
      newest.current = how(newest.current);
      dirty.current = true;
      stash(brand, post.current?.id ?? null, newest.current);
      setDraft(newest.current);
      setKept("changed");
    },
    [brand],
  );

  const write = useCallback(async (): Promise<Post | null> => {
    if (writing.current) await writing.current.catch(() => null);
    if (!dirty.current) return post.current;
    if (!post.current && isEmpty(newest.current) && newest.current.profiles.length === 0) return null;
    const body = toPostIn(newest.current);
    const before = post.current;
    dirty.current = false;
    setKept("keeping");
    const asked = before
      ? api.PUT("/api/brands/{brand}/posts/{id}", {
          params: { path: { brand, id: before.id } },
          headers: ifMatch(before.revision),
          body,
        })
      : api.POST("/api/brands/{brand}/posts", { params: { path: { brand } }, body });
    const attempt = got<Post>(asked as Promise<{ data?: Post; error?: unknown; response: Response }>);
    writing.current = attempt;
    try {
      const saved = await attempt;
      post.current = saved;
      unstash(brand, before?.id ?? null);
      if (dirty.current) stash(brand, saved.id, newest.current);
      setProblem(null);
      setKept(dirty.current ? "changed" : "kept");
      queries.setQueryData(["post", brand, saved.id], saved);
      void queries.invalidateQueries({ queryKey: ["calendar", brand] });
      if (!before) onMade(saved.id);
      return saved;
    } catch (error) {
      dirty.current = true;
      const trouble = error instanceof Problem ? error : new Problem(0, String(error));
      if (trouble.status === 401) void queries.invalidateQueries({ queryKey: ["me"] });
      if (trouble.status === 412) setClash(trouble.present as Post);
      setProblem(trouble);
      setKept("failed");
      throw trouble;
    } finally {
      writing.current = null;
    }
  }, [brand, onMade, queries]);

  // Keep by itself after a pause in typing, and again after a failure that may pass.
  // biome-ignore lint/correctness/useExhaustiveDependencies: a change of the draft begins the pause anew
  useEffect(() => {
    if (clash || (kept !== "changed" && kept !== "failed")) return;
    if (kept === "failed" && problem && problem.status !== 0 && problem.status < 500 && problem.status !== 401) return;
    const timer = setTimeout(() => void write().catch(() => null), kept === "failed" ? AGAIN_MS : PAUSE_MS);
    return () => clearTimeout(timer);
  }, [draft, kept, clash, problem, write]);

  // Leaving the Bench keeps at once what the pause would have kept.
  useEffect(() => () => void write().catch(() => null), [write]);

  /** The server's state was read again: taken over unless something here is newer. */
  const adopt = useCallback((fresh: Post) => {
    if (!post.current || fresh.revision < post.current.revision || fresh.id !== post.current.id) return;
    const moved = fresh.revision > post.current.revision;
    if (dirty.current || writing.current) return;
    post.current = fresh;
    if (moved) {
      newest.current = fromPost(fresh);
      setDraft(newest.current);
    }
  }, []);

  /** Two people at one post: take what stands, or put one's own over it. */
  const settle = useCallback(
    (mine: boolean) => {
      if (!clash) return;
      post.current = clash;
      if (!mine) {
        newest.current = fromPost(clash);
        dirty.current = false;
        unstash(brand, clash.id);
        setDraft(newest.current);
      }
      setClash(null);
      setProblem(null);
      setKept(mine ? "changed" : "kept");
      say(mine ? "Yours is kept over theirs. Theirs is in the post's history." : "Taken over as it stands.");
    },
    [brand, clash],
  );

  const planned = useCallback((fresh: Post) => {
    post.current = fresh;
  }, []);

  /** The post was changed at the server by one's own wish: that is what stands. */
  const replace = useCallback(
    (fresh: Post) => {
      post.current = fresh;
      newest.current = fromPost(fresh);
      dirty.current = false;
      unstash(brand, fresh.id);
      setDraft(newest.current);
      setKept("kept");
      queries.setQueryData(["post", brand, fresh.id], fresh);
    },
    [brand, queries],
  );
  const now = useCallback(() => newest.current, []);

  return {
    draft,
    now,
    change,
    replace,
    kept,
    problem,
    clash,
    settle,
    write,
    adopt,
    planned,
    id: post.current?.id ?? null,
  };
}
