import type { Post, PostIn, Profile, Schemas } from "@/api/client";
import { draftKey } from "./storedDrafts";

export type Overrides = Schemas["OverridesIO"];
export type Master = PostIn["master"];
export type Showing = Schemas["ShowingIO"];

/** What is being written: the master, what each column has of its own, and the profiles chosen. */
export type Draft = {
  title: string;
  master: Master;
  /** By column: a network, or a network and the profile that was split off. */
  overrides: Record<string, Overrides>;
  profiles: number[];
  labels: number[];
  campaign: number | null;
};

export const EMPTY: Draft = {
  title: "",
  master: { text: "", media: [], link: "", first_comment: "" },
  overrides: {},
  profiles: [],
  labels: [],
  campaign: null,
};

/** A column of the Bench beside the master. `profile`: the one that was split off. */
export type BenchColumn = { key: string; network: string; profile: number | null; profiles: Profile[] };

export const keyOf = (network: string, profile: number | null | undefined) =>
  profile ? `${network}/${profile}` : network;

function ofKey(key: string): { network: string; profile: number | null } {
  const [network = "", profile] = key.split("/");
  return { network, profile: profile ? Number(profile) : null };
}

/** The columns of the chosen profiles: one for each network, and one for each profile split off. */
export function columnsOf(draft: Draft, chosen: Profile[]): BenchColumn[] {
  const columns = new Map<string, BenchColumn>();
  for (const profile of chosen) {
    const own = keyOf(profile.network, profile.id);
    const split = own in draft.overrides;
    const key = split ? own : profile.network;
    const column = columns.get(key) ?? {
      key,
      network: profile.network,
      profile: split ? profile.id : null,
      profiles: [],
    };
    column.profiles.push(profile);
    columns.set(key, column);
  }
  return [...columns.values()].sort((a, b) => a.network.localeCompare(b.network) || a.key.localeCompare(b.key));
}

export function fromPost(post: Post): Draft {
  return {
    title: post.title,
    master: post.master,
    overrides: Object.fromEntries(post.versions.map((v) => [keyOf(v.network, v.profile), v.overrides])),
    profiles: post.deliveries.map((d) => d.profile),
    labels: post.labels,
    campaign: post.campaign,
  };
}

export function toPostIn(draft: Draft): PostIn {
  return {
    title: draft.title,
    master: draft.master,
    versions: versionsOf(draft),
    profiles: draft.profiles,
    labels: draft.labels,
    campaign: draft.campaign,
  };
}

export function versionsOf(draft: Draft): NonNullable<PostIn["versions"]> {
  return Object.entries(draft.overrides).map(([key, own]) => ({ ...ofKey(key), overrides: own }));
}

/**
 * What a column says. Words, media and the link are shown as they are typed; how they are shown, the card and the tags
 * are what the core has worked out of this draft (`written`), and until it has answered what will most likely come of it.
 */
export function contentOf(draft: Draft, key: string, written: Overrides | undefined): Overrides {
  const own: Partial<Overrides> = draft.overrides[key] ?? {};
  const { text, media, first_comment, link, card, link_tags, shown } = draft.master;
  const address = own.link ?? link;
  const expected = {
    // A card is of its link.
    card: own.card ?? (address === link ? card : null),
    link_tags: own.link_tags ?? link_tags,
    shown: withShown(shown ?? {}, own.shown ?? {}),
  };
  return {
    card: written ? written.card : expected.card,
    link_tags: written ? written.link_tags : expected.link_tags,
    shown: written ? written.shown : expected.shown,
    text: own.text ?? text,
    media: own.media ?? media,
    first_comment: own.first_comment ?? first_comment,
    link: address,
    fields: own.fields ?? {},
    form: own.form,
  };
}

function withShown(all: Record<string, Showing>, own: Record<string, Showing>): Record<string, Showing> {
  const shown = { ...all };
  for (const [asset, mine] of Object.entries(own)) shown[asset] = { ...shown[asset], ...saidIn(mine) };
  return shown;
}

/** What is said in it, without what is left to be inherited. */
export function saidIn<T extends object>(values: T): Partial<T> {
  return Object.fromEntries(Object.entries(values).filter(([, value]) => value != null)) as Partial<T>;
}

export function withMaster(draft: Draft, change: Partial<Master>): Draft {
  return { ...draft, master: { ...draft.master, ...change } };
}

/** A draft with parts of one column's version changed; null puts a part back to the master. */
export function withOverrides(draft: Draft, key: string, change: Partial<Overrides>): Draft {
  return { ...draft, overrides: { ...draft.overrides, [key]: { ...draft.overrides[key], ...change } } };
}

/** The parts in which a version differs from what it was. */
export function differingParts(before: Overrides | undefined, after: Overrides): Partial<Overrides> {
  const was: Partial<Overrides> = before ?? {};
  const changed = (Object.keys(after) as (keyof Overrides)[]).filter(
    (part) => JSON.stringify(after[part] ?? null) !== JSON.stringify(was[part] ?? EMPTY_PARTS[part] ?? null),
  );
  return Object.fromEntries(changed.map((part) => [part, after[part]])) as Partial<Overrides>;
}

const EMPTY_PARTS: Partial<Overrides> = { fields: {}, shown: {} };

/** A draft with one of a network's own fields changed. */
export function withField(draft: Draft, key: string, name: string, value: string): Draft {
  const { [name]: _, ...others } = draft.overrides[key]?.fields ?? {};
  return withOverrides(draft, key, { fields: value ? { ...others, [name]: value } : others });
}

/** A draft with an asset shown otherwise: in the master (key null), or in one column. Null parts are inherited. */
export function withShowing(draft: Draft, key: string | null, asset: number, change: Partial<Showing>): Draft {
  const shown = (key === null ? draft.master.shown : draft.overrides[key]?.shown) ?? {};
  const values = { ...shown[asset], ...change };
  const kept = Object.fromEntries(Object.entries(values).filter(([, value]) => value !== null && value !== undefined));
  const { [String(asset)]: _, ...others } = shown;
  const next = Object.keys(kept).length ? { ...others, [asset]: kept } : others;
  return key === null ? withMaster(draft, { shown: next }) : withOverrides(draft, key, { shown: next });
}

/** A profile in a column of its own, which begins as its network's version; or back in its network's. */
export function split(draft: Draft, profile: Profile, apart: boolean): Draft {
  const key = keyOf(profile.network, profile.id);
  if (apart) return { ...draft, overrides: { ...draft.overrides, [key]: { ...draft.overrides[profile.network] } } };
  const { [key]: _, ...own } = draft.overrides;
  return { ...draft, overrides: own };
}

export function isEmpty(draft: Draft): boolean {
  const { text, link, media, first_comment } = draft.master;
  return (
    !draft.title && !text && !link && !first_comment && !media?.length && Object.keys(draft.overrides).length === 0
  );
}

/** What could not be kept at the server stays in the browser, until it can. */
export function storeDraft(brand: string, id: number | null, draft: Draft): void {
  localStorage.setItem(draftKey(brand, id), JSON.stringify(draft));
}

export function clearDraft(brand: string, id: number | null): void {
  localStorage.removeItem(draftKey(brand, id));
}

export function storedDraft(brand: string, id: number | null): Draft | null {
  try {
    const { own, ...kept } = JSON.parse(localStorage.getItem(draftKey(brand, id)) ?? "{}");
    // `own` is what overrides were called when an earlier Menudo stored it.
    return kept.master ? { ...EMPTY, overrides: own ?? {}, ...kept } : null;
  } catch {
    return null;
  }
}
