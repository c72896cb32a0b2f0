import type { Post, PostIn } from "@/api/client";

export type Own = PostIn["versions"] extends (infer V)[] | undefined ? (V extends { own: infer O } ? O : never) : never;

/** What is being written: the master, what each network has of its own, and the profiles chosen. */
export type Draft = {
  title: string;
  text: string;
  media: number[];
  link: string;
  own: Record<string, Own>;
  profiles: number[];
};

export const EMPTY: Draft = { title: "", text: "", media: [], link: "", own: {}, profiles: [] };

export function fromPost(post: Post): Draft {
  return {
    title: post.title,
    text: post.master.text ?? "",
    media: post.master.media ?? [],
    link: post.master.link ?? "",
    own: Object.fromEntries(post.versions.map((v) => [v.network, v.own])),
    profiles: post.deliveries.map((d) => d.profile),
  };
}

export function toPostIn(draft: Draft): PostIn {
  return {
    title: draft.title,
    master: masterOf(draft),
    versions: versionsOf(draft),
    profiles: draft.profiles,
  };
}

export function masterOf(draft: Draft): PostIn["master"] {
  return { text: draft.text, media: draft.media, link: draft.link };
}

export function versionsOf(draft: Draft): NonNullable<PostIn["versions"]> {
  return Object.entries(draft.own).map(([network, own]) => ({ network, own }));
}

/** A draft with one field of one network's version changed; null puts it back to the master. */
export function withOwn(draft: Draft, network: string, change: Partial<Own>): Draft {
  const own = { ...draft.own[network], ...change };
  return { ...draft, own: { ...draft.own, [network]: own } };
}

/** A draft with one of a network's own fields changed. */
export function withField(draft: Draft, network: string, name: string, value: string): Draft {
  const { [name]: _, ...others } = draft.own[network]?.fields ?? {};
  return withOwn(draft, network, { fields: value ? { ...others, [name]: value } : others });
}

export function isEmpty(draft: Draft): boolean {
  return !draft.title && !draft.text && !draft.link && draft.media.length === 0 && Object.keys(draft.own).length === 0;
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
