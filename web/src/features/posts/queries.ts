import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { useEffect, useState } from "react";
import { type Asset, api, got, toProblem, writeToken } from "@/api/client";
import { type Draft, masterOf, versionsOf } from "./draft";

export function usePost(brand: string, id: number | null) {
  return useQuery({
    queryKey: ["post", brand, id],
    queryFn: () => got(api.GET("/api/brands/{brand}/posts/{id}", { params: { path: { brand, id: id ?? 0 } } })),
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

/** Findings and proofs of every column, asked of the core in one call a moment after each keystroke. */
export function useCheck(brand: string, draft: Draft, networks: string[], assets: Map<number, Asset>) {
  const alts = draft.media.map((id) => assets.get(id)?.alt ?? "").join("\n");
  const asked = useSettled(
    JSON.stringify({ master: masterOf(draft), versions: versionsOf(draft), networks, alts }),
    CHECK_PAUSE_MS,
  );
  return useQuery({
    queryKey: ["check", brand, asked],
    queryFn: async ({ signal }) => {
      const { alts: _, ...body } = JSON.parse(asked);
      return got(api.POST("/api/brands/{brand}/check", { params: { path: { brand } }, body, signal }));
    },
    enabled: networks.length > 0,
    placeholderData: keepPreviousData,
    gcTime: 10_000,
  });
}

/** Add a file to the brand's media. Throws a Problem with the reason, in the file's own words. */
export async function addAsset(brand: string, file: File): Promise<Asset> {
  const form = new FormData();
  form.append("file", file);
  const asked = fetch(`/api/brands/${brand}/assets`, {
    method: "POST",
    body: form,
    headers: { "X-CSRFToken": await writeToken() },
  });
  const response = await asked.catch(() => null);
  if (!response) throw toProblem(0, { detail: `“${file.name}” could not be sent: Menudo can't be reached just now.` });
  const body = await response.json().catch(() => null);
  if (!response.ok) throw toProblem(response.status, body);
  return body;
}

export function describeAsset(brand: string, id: number, alt: string): Promise<Asset> {
  return got(api.PATCH("/api/brands/{brand}/assets/{id}", { params: { path: { brand, id } }, body: { alt } }));
}
