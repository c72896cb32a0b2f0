import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type Asset, api, type Schemas, unwrap } from "@/api/client";
import { type BenchColumn, type Draft, keyOf, type Overrides, versionsOf } from "./draft";

export function usePost(brand: string, id: number | null) {
  return useQuery({
    queryKey: ["post", brand, id],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/posts/{post_id}", { params: { path: { brand, post_id: id ?? 0 } } })),
    enabled: id !== null,
  });
}

const CHECK_PAUSE_MS = 120;

function useSettled<T>(value: T, pause: number): T {
  const [settled, setSettled] = useState(value);
  useEffect(() => {
    const timer = setTimeout(() => setSettled(value), pause);
    return () => clearTimeout(timer);
  }, [value, pause]);
  return settled;
}

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
  const asked = useSettled(JSON.stringify({ ...toCheckIn(draft, columns, day), alts }), CHECK_PAUSE_MS);
  return useQuery({
    queryKey: ["check", brand, asked],
    queryFn: async ({ signal }) => {
      const { alts: _, ...body } = JSON.parse(asked);
      return unwrap(api.POST("/api/brands/{brand}/check", { params: { path: { brand } }, body, signal }));
    },
    select: (found) => new Map(found.map((column) => [keyOf(column.network, column.profile), column])),
    enabled: columns.length > 0,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
}

/** What a column has of its own once a finding is mended. */
export function applyFix(
  brand: string,
  draft: Draft,
  column: BenchColumn,
  field: string,
  name: string,
): Promise<Overrides> {
  const body = { ...toCheckIn(draft, [column], null), field, fix: name };
  return unwrap(api.POST("/api/brands/{brand}/fix", { params: { path: { brand } }, body }));
}

/** Two texts by words: what is the same, what went, what came. */
export function useCompare(brand: string, before: string, after: string) {
  return useQuery({
    queryKey: ["compare", brand, before, after],
    queryFn: () =>
      unwrap(api.POST("/api/brands/{brand}/compare", { params: { path: { brand } }, body: { before, after } })),
    gcTime: 10_000,
  });
}

export function describeAsset(brand: string, id: number, values: Schemas["DescribeIn"]): Promise<Schemas["AssetOut"]> {
  return unwrap(
    api.PATCH("/api/brands/{brand}/assets/{asset_id}", { params: { path: { brand, asset_id: id } }, body: values }),
  );
}

/** What is kept to be said again: snippets, tag sets, link tags. */
export function useSayings(brand: string) {
  return useQuery({
    queryKey: ["sayings", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/sayings", { params: { path: { brand } } })),
    staleTime: 60_000,
  });
}

const HERE_MS = 15_000;

/** Say that one has the post open; who else has. */
export function usePresence(brand: string, id: number | null) {
  const path = { brand, post_id: id ?? 0 };
  const here = useQuery({
    queryKey: ["attendance", brand, id],
    queryFn: () => unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/presence", { params: { path } })),
    enabled: id !== null,
    refetchInterval: HERE_MS,
    refetchIntervalInBackground: true,
    gcTime: 0,
  });
  useEffect(() => {
    if (id === null) return;
    return () =>
      void api.DELETE("/api/brands/{brand}/posts/{post_id}/presence", { params: { path: { brand, post_id: id } } });
  }, [brand, id]);
  return here.data ?? [];
}
