import { useEffect, useRef, useState } from "react";
import type { Schemas } from "@/api/client";
import type { RemarkTarget } from "@/features/talk/target";

export type PendingSignoffs = Schemas["PendingOut"];
export type PendingPost = Schemas["PendingPost"];
export type PendingColumn = Schemas["PendingColumn"];
export type Outcome = "open" | "agreed" | "back" | "gone";

/** What one can answer, and how it is sent: by the person of a brand, or by a client's link. */
export type Answers = {
  agree: (post: PendingPost, changes: Schemas["ChangeIn"][]) => Promise<unknown>;
  agreeToAll: (posts: PendingPost[]) => Promise<Schemas["AnsweredOut"]>;
  sendBack: (post: PendingPost, words: string, on: RemarkTarget) => Promise<unknown>;
  say: (post: PendingPost, words: string, on: RemarkTarget) => Promise<unknown>;
};

/** Many posts in a row: which were there when one began, what became of each, and which is in sight. */
export function useDeck(data: PendingSignoffs, first: number | undefined) {
  const [order, setOrder] = useState<number[]>([]);
  const [outcomes, setOutcomes] = useState<Record<number, Outcome>>({});
  const [at, setAt] = useState<number | null>(first ?? null);
  const seen = useRef(new Map<number, PendingPost>());
  for (const post of data.posts) seen.current.set(post.post, post);
  useEffect(() => {
    setOrder((before) => [...before, ...data.posts.map((p) => p.post).filter((id) => !before.includes(id))]);
  }, [data.posts]);

  const there = new Map(data.posts.map((post) => [post.post, post]));
  function outcome(id: number): Outcome {
    const values = outcomes[id];
    const post = there.get(id);
    if (!post) return values ?? "gone";
    if (post.state === "sent_back") return "back";
    return values === "agreed" && !post.mine ? "agreed" : "open";
  }
  const open = order.filter((id) => outcome(id) === "open");
  const present = at !== null && seen.current.has(at) ? at : (open[0] ?? order[0] ?? null);
  const place = present === null ? -1 : order.indexOf(present);

  function answered(id: number, as: Outcome) {
    setOutcomes((all) => ({ ...all, [id]: as }));
    const later = order.slice(order.indexOf(id) + 1);
    const next = [...later, ...order].find((one) => one !== id && outcome(one) === "open");
    setAt(next ?? id);
  }
  return {
    order,
    outcome,
    open: open.flatMap((id) => there.get(id) ?? []),
    post: present === null ? undefined : (there.get(present) ?? seen.current.get(present)),
    place,
    go: setAt,
    step: (by: number) => {
      const next = order[place + by];
      if (next !== undefined) setAt(next);
    },
    answered,
  };
}
