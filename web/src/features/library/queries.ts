import { useQuery, useQueryClient } from "@tanstack/react-query";
import { api, Problem, type Schemas, unwrap } from "@/api/client";
import { toast } from "@/ui/toasts";

export type Asset = Schemas["AssetOut"];
export type AssetFilter = {
  words?: string;
  folder?: number;
  label?: string;
  kind?: "picture" | "animation" | "video";
  used?: boolean;
  binned?: boolean;
};

export function useShelves(brand: string) {
  return useQuery({
    queryKey: ["library", brand, "shelves"],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/shelves", { params: { path: { brand } } })),
  });
}

/** Media that fit, newest first; `pages` pages of them. */
export function useAssets(brand: string, wanted: AssetFilter, pages: number) {
  return useQuery({
    queryKey: ["library", brand, "assets", wanted, pages],
    queryFn: async () => {
      const all: Asset[] = [];
      let total = 0;
      for (let page = 0; page < pages; page++) {
        const query = { ...wanted, before: all.at(-1)?.id };
        const found = await unwrap(api.GET("/api/brands/{brand}/assets", { params: { path: { brand }, query } }));
        all.push(...found.assets);
        total = found.total;
        if (all.length >= total) break;
      }
      return { assets: all, total };
    },
    placeholderData: (before) => before,
  });
}

export function useUses(brand: string, id: number) {
  return useQuery({
    queryKey: ["library", brand, "uses", id],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/assets/{asset_id}/uses", { params: { path: { brand, asset_id: id } } })),
  });
}

export function useStores(brand: string) {
  return useQuery({
    queryKey: ["stores", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/stores", { params: { path: { brand } } })),
  });
}

/** What can be done with many media at once; each answers with what was done, and offers the way back where there is one. */
export function useMediaActions(brand: string) {
  const queries = useQueryClient();
  const path = { brand };
  const fresh = () => queries.invalidateQueries({ queryKey: ["library", brand] });
  const counted = (count: number) => (count === 1 ? "One" : String(count));
  async function attempt(act: () => Promise<unknown>): Promise<boolean> {
    try {
      await act();
      await fresh();
      return true;
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
      return false;
    }
  }
  const restore = (ids: number[]) =>
    attempt(async () => {
      const done = await unwrap(api.POST("/api/brands/{brand}/media/restore", { params: { path }, body: { ids } }));
      toast(`${counted(done.count)} out of the bin.`);
    });
  return {
    fresh,
    attempt,
    restore,
    move: (assets: Asset[], folder: number | null, name: string) =>
      attempt(async () => {
        const ids = assets.map((a) => a.id);
        await unwrap(api.POST("/api/brands/{brand}/media/move", { params: { path }, body: { ids, folder } }));
        toast(`${counted(ids.length)} moved to ${name}.`, {
          undo: async () => {
            for (const asset of assets) {
              const body = { ids: [asset.id], folder: asset.folder ?? null };
              await unwrap(api.POST("/api/brands/{brand}/media/move", { params: { path }, body }));
            }
            await fresh();
          },
        });
      }),
    copy: (ids: number[], folder: number | null, name: string) =>
      attempt(async () => {
        await unwrap(api.POST("/api/brands/{brand}/media/copy", { params: { path }, body: { ids, folder } }));
        toast(`${counted(ids.length)} copied to ${name}.`);
      }),
    label: (ids: number[], add: string[], remove: string[]) =>
      attempt(async () => {
        await unwrap(api.POST("/api/brands/{brand}/media/label", { params: { path }, body: { ids, add, remove } }));
        toast(add.length ? `Labelled ${add.join(", ")}.` : `Without ${remove.join(", ")} now.`, {
          undo: async () => {
            const body = { ids, add: remove, remove: add };
            await unwrap(api.POST("/api/brands/{brand}/media/label", { params: { path }, body }));
            await fresh();
          },
        });
      }),
    bin: (ids: number[]) =>
      attempt(async () => {
        const done = await unwrap(api.POST("/api/brands/{brand}/media/bin", { params: { path }, body: { ids } }));
        toast(`${counted(done.count)} in the bin, for 30 days.`, { undo: async () => void (await restore(ids)) });
      }),
  };
}

/** A size in bytes as people say it. */
export function formatBytes(size: number): string {
  if (size < 1000) return `${size} bytes`;
  if (size < 1_000_000) return `${Math.round(size / 1000)} kB`;
  if (size < 1_000_000_000) return `${(size / 1_000_000).toFixed(1)} MB`;
  return `${(size / 1_000_000_000).toFixed(2)} GB`;
}
