import type { Post, PostIn } from "@/api/client";

export type Own = PostIn["versions"] extends (infer V)[] | undefined ? (V extends { own: infer O } ? O : never) : never;

/** What is being written: the master, what each network has of its own, and the profiles chosen. */
export type Draft = {
  title: string;
  text: string;
  media: number[];
  own: Record<string, Own>;
  profiles: number[];
};

export const EMPTY: Draft = { title: "", text: "", media: [], own: {}, profiles: [] };

export function fromPost(post: Post): Draft {
  return {
    title: post.title,
    text: post.master.text ?? "",
    media: post.master.media ?? [],
    own: Object.fromEntries(post.versions.map((v) => [v.network, v.own])),
    profiles: post.deliveries.map((d) => d.profile),
  };
}

export function toPostIn(draft: Draft): PostIn {
  return {
    title: draft.title,
    master: { text: draft.text, media: draft.media },
    versions: versionsOf(draft),
    profiles: draft.profiles,
  };
}

export function versionsOf(draft: Draft): NonNullable<PostIn["versions"]> {
  return Object.entries(draft.own).map(([network, own]) => ({ network, own }));
}

/** A draft with one field of one network's version changed; null puts it back to the master. */
export function withOwn(draft: Draft, network: string, change: Partial<Own>): Draft {
  const own = { ...draft.own[network], ...change };
  return { ...draft, own: { ...draft.own, [network]: own } };
}

export function isEmpty(draft: Draft): boolean {
  return !draft.title && !draft.text && draft.media.length === 0 && Object.keys(draft.own).length === 0;
}

const stashKey = (brand: string, id: number | null) => `menudo-bench:${brand}:${id ?? "new"}`;

/** What could not be kept at the server stays in the browser, until it can. */
export function stash(brand: string, id: number | null, draft: Draft): void {
  localStorage.setItem(stashKey(brand, id), JSON.stringify(draft));
}

export function unstash(brand: string, id: number | null): void {
  localStorage.removeItem(stashKey(brand, id));
}

export function stashed(brand: string, id: number | null): Draft | null {
  try {
    const kept = JSON.parse(localStorage.getItem(stashKey(brand, id)) ?? "null");
    return kept ? { ...EMPTY, ...kept } : null;
  } catch {
    return null;
  }
}
