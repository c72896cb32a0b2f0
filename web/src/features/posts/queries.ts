import { useQuery } from "@tanstack/react-query";
import { useEffect } from "react";
import type { Asset, Schemas } from "@/api/client";
import { libraryQueries } from "@/data/library";
import { applyFix, leavePost, postQueries } from "@/data/posts";
import { useSettled } from "@/ui/useSettled";
import { type BenchColumn, type Draft, keyOf, type Overrides, versionsOf } from "./draft";

export function usePost(brand: string, id: number | null) {
  return useQuery(postQueries.post(brand, id));
}

const CHECK_PAUSE_MS = 120;

function toCheckIn(draft: Draft, columns: BenchColumn[], day: string | null): Schemas["CheckIn"] {
  return {
    title: draft.title,
    master: draft.master,
    versions: versionsOf(draft),
    columns: columns.map(({ network, profile, profiles }) => ({
      network,
      profile,
      profiles: profiles.map((p) => p.id),
    })),
    day,
    campaign: draft.campaign,
  };
}

/** Findings and proofs of every column by its key, asked of the core in one call a moment after each keystroke. */
export function useCheck(
  brand: string,
  draft: Draft,
  columns: BenchColumn[],
  assets: Map<number, Asset>,
  day: string | null,
) {
  const alts = (draft.master.media ?? []).map((id) => assets.get(id)?.alt ?? "").join("\n");
  const now = JSON.stringify({ ...toCheckIn(draft, columns, day), alts });
  const asked = useSettled(now, CHECK_PAUSE_MS);
  const { alts: _, ...body } = JSON.parse(asked);
  const found = useQuery({
    ...postQueries.check(brand, body, asked),
    select: (found) => new Map(found.map((column) => [keyOf(column.network, column.profile), column])),
    enabled: columns.length > 0,
  });
  return { ...found, isOfNow: asked === now && !found.isPlaceholderData && !found.isPending };
}

/** What a column has of its own once a finding is mended. */
export function fixFinding(
  brand: string,
  draft: Draft,
  column: BenchColumn,
  field: string,
  name: string,
): Promise<Overrides> {
  const body = { ...toCheckIn(draft, [column], null), field, fix: name };
  return applyFix(brand, body);
}

/** Two texts by words: what is the same, what went, what came. */
export function useCompare(brand: string, before: string, after: string) {
  return useQuery(postQueries.compare(brand, before, after));
}

/** What is kept to be said again: snippets, tag sets, link tags. */
export function useSayings(brand: string) {
  return useQuery(libraryQueries.sayings(brand));
}

/** Say that one has the post open; who else has. */
export function usePresence(brand: string, id: number | null) {
  const here = useQuery(postQueries.attendance(brand, id));
  useEffect(() => {
    if (id === null) return;
    return () => void leavePost(brand, id);
  }, [brand, id]);
  return here.data ?? [];
}
