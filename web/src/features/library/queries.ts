import { useQuery } from "@tanstack/react-query";
import { Problem, type Schemas } from "@/api/client";
import { useChanged } from "@/data/changes";
import {
  type AssetFilter,
  binMedia,
  copyMedia,
  labelMedia,
  libraryQueries,
  moveMedia,
  restoreMedia,
} from "@/data/library";
import { toast } from "@/ui/toasts";

export type Asset = Schemas["AssetOut"];

export function useShelves(brand: string) {
  return useQuery(libraryQueries.shelves(brand));
}

/** Media that fit, newest first; `pages` pages of them. */
export function useAssets(brand: string, wanted: AssetFilter, pages: number) {
  return useQuery(libraryQueries.assets(brand, wanted, pages));
}

export function useUses(brand: string, id: number) {
  return useQuery(libraryQueries.uses(brand, id));
}

export function useStores(brand: string) {
  return useQuery(libraryQueries.stores(brand));
}

/** What can be done with many media at once; each answers with what was done, and offers the way back where there is one. */
export function useMediaActions(brand: string) {
  const changed = useChanged(brand);
  const fresh = () => changed("asset");
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
      const done = await restoreMedia(brand, { ids });
      toast(`${counted(done.count)} out of the bin.`);
    });
  return {
    fresh,
    attempt,
    restore,
    move: (assets: Asset[], folder: number | null, name: string) =>
      attempt(async () => {
        const ids = assets.map((a) => a.id);
        await moveMedia(brand, { ids, folder });
        toast(`${counted(ids.length)} moved to ${name}.`, {
          undo: async () => {
            for (const asset of assets) {
              const body = { ids: [asset.id], folder: asset.folder ?? null };
              await moveMedia(brand, body);
            }
            await fresh();
          },
        });
      }),
    copy: (ids: number[], folder: number | null, name: string) =>
      attempt(async () => {
        await copyMedia(brand, { ids, folder });
        toast(`${counted(ids.length)} copied to ${name}.`);
      }),
    label: (ids: number[], add: string[], remove: string[]) =>
      attempt(async () => {
        await labelMedia(brand, { ids, add, remove });
        toast(add.length ? `Labelled ${add.join(", ")}.` : `Without ${remove.join(", ")} now.`, {
          undo: async () => {
            const body = { ids, add: remove, remove: add };
            await labelMedia(brand, body);
            await fresh();
          },
        });
      }),
    bin: (ids: number[]) =>
      attempt(async () => {
        const done = await binMedia(brand, { ids });
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
