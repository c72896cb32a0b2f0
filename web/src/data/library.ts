import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Query, type Schemas, unwrap } from "@/api/client";
import { upload } from "@/api/upload";
import { brandKey } from "./keys";

/** What media have to be like. */
export type AssetFilter = {
  words?: string;
  folder?: number;
  label?: string;
  kind?: "picture" | "animation" | "video";
  used?: boolean;
  binned?: boolean;
};

export const libraryQueries = {
  shelves: (brand: string) =>
    queryOptions({ queryKey: brandKey("assets", brand, "shelves"), queryFn: () => fetchShelves(brand) }),
  /** Media that fit, newest first; `pages` pages of them. */
  assets: (brand: string, wanted: AssetFilter, pages: number) =>
    queryOptions({
      queryKey: brandKey("assets", brand, "pages", wanted, pages),
      queryFn: () => fetchPages(brand, wanted, pages),
      placeholderData: keepPreviousData,
    }),
  /** The first page only. */
  newest: (brand: string, query: Query<"assets">) =>
    queryOptions({ queryKey: brandKey("assets", brand, "newest", query), queryFn: () => fetchAssets(brand, query) }),
  uses: (brand: string, id: number) =>
    queryOptions({ queryKey: brandKey("assets", brand, "uses", id), queryFn: () => fetchUses(brand, id) }),
  stores: (brand: string) => queryOptions({ queryKey: brandKey("stores", brand), queryFn: () => fetchStores(brand) }),
  store: (brand: string, id: number, path: string) =>
    queryOptions({
      queryKey: brandKey("stores", brand, id, path),
      queryFn: () => fetchStore(brand, id, { path }),
      retry: false,
    }),
  sayings: (brand: string) =>
    queryOptions({ queryKey: brandKey("sayings", brand), queryFn: () => fetchSayings(brand), staleTime: 60_000 }),
};

async function fetchPages(brand: string, wanted: AssetFilter, pages: number) {
  const assets: Schemas["AssetOut"][] = [];
  let total = 0;
  for (let page = 0; page < pages; page++) {
    const found = await fetchAssets(brand, { ...wanted, before: assets.at(-1)?.id });
    assets.push(...found.assets);
    total = found.total;
    if (assets.length >= total) break;
  }
  return { assets, total };
}

/** Another name; a bundle or not. */
export const updateFolder = (brand: string, folderId: number, body: Schemas["FolderIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/folders/{folder_id}", { params: { path: { brand, folder_id: folderId } }, body }),
  );

/** A new folder, or a bundle. */
export const createFolder = (brand: string, body: Schemas["FolderIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/folders", { params: { path: { brand } }, body }));

/** A copy of a folder with all that lies in it. */
export const copyFolder = (brand: string, folderId: number, body: Schemas["FolderCopyIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/folders/{folder_id}/copy", {
      params: { path: { brand, folder_id: folderId } },
      body,
    }),
  );

/** Remove a folder; what lies in it stays in the library. */
export const removeFolder = (brand: string, folderId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/folders/{folder_id}", { params: { path: { brand, folder_id: folderId } } }));

/** Forget a store. */
export const deleteStore = (brand: string, storeId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/stores/{store_id}", { params: { path: { brand, store_id: storeId } } }));

/** Name a shared store (WebDAV); it is looked into first. */
export const createStore = (brand: string, body: Schemas["StoreIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/stores", { params: { path: { brand } }, body }));

/** What lies in a store, folders first. */
const fetchStore = (brand: string, storeId: number, query: Query<"listStore">) =>
  unwrap(api.GET("/api/brands/{brand}/stores/{store_id}", { params: { path: { brand, store_id: storeId }, query } }));

/** Bring files in from a store. */
export const importFromStore = (brand: string, storeId: number, body: Schemas["ImportFilesIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/stores/{store_id}", { params: { path: { brand, store_id: storeId } }, body }));

/** Folders, labels and the storage used. */
const fetchShelves = (brand: string) => unwrap(api.GET("/api/brands/{brand}/shelves", { params: { path: { brand } } }));

/** A page of the library. */
const fetchAssets = (brand: string, query: Query<"assets">) =>
  unwrap(api.GET("/api/brands/{brand}/assets", { params: { path: { brand }, query } }));

/** The posts that use it. */
const fetchUses = (brand: string, assetId: number) =>
  unwrap(api.GET("/api/brands/{brand}/assets/{asset_id}/uses", { params: { path: { brand, asset_id: assetId } } }));

/** The brand's shared stores. */
const fetchStores = (brand: string) => unwrap(api.GET("/api/brands/{brand}/stores", { params: { path: { brand } } }));

/** Take media out of the bin. */
export const restoreMedia = (brand: string, body: Schemas["IdsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/media/restore", { params: { path: { brand } }, body }));

/** Move media into a folder, or out of all. */
export const moveMedia = (brand: string, body: Schemas["IntoIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/media/move", { params: { path: { brand } }, body }));

/** Copy media into a folder: alt texts, captions and labels become the copies' own. */
export const copyMedia = (brand: string, body: Schemas["IntoIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/media/copy", { params: { path: { brand } }, body }));

/** Give labels to media, and take labels from them. */
export const labelMedia = (brand: string, body: Schemas["LabelIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/media/label", { params: { path: { brand } }, body }));

/** Put media in the bin; what a post uses stays. */
export const binMedia = (brand: string, body: Schemas["IdsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/media/bin", { params: { path: { brand } }, body }));

/** Change a snippet. */
export const updateSnippet = (brand: string, snippetId: number, body: Schemas["SnippetIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/snippets/{snippet_id}", { params: { path: { brand, snippet_id: snippetId } }, body }),
  );

/** A new snippet. */
export const createSnippet = (brand: string, body: Schemas["SnippetIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/snippets", { params: { path: { brand } }, body }));

/** Change a tag set. */
export const updateTagSet = (brand: string, tagSetId: number, body: Schemas["TagSetIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/tag-sets/{tag_set_id}", { params: { path: { brand, tag_set_id: tagSetId } }, body }),
  );

/** A new tag set. */
export const createTagSet = (brand: string, body: Schemas["TagSetIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/tag-sets", { params: { path: { brand } }, body }));

/** Change a preset. */
export const updateLinkTags = (brand: string, presetId: number, body: Schemas["LinkTagsIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/link-tags/{preset_id}", { params: { path: { brand, preset_id: presetId } }, body }),
  );

/** A new preset of link tags. */
export const createLinkTags = (brand: string, body: Schemas["LinkTagsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/link-tags", { params: { path: { brand } }, body }));

/** Delete a snippet. */
export const deleteSnippet = (brand: string, snippetId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/snippets/{snippet_id}", { params: { path: { brand, snippet_id: snippetId } } }),
  );

/** Delete a tag set. */
export const deleteTagSet = (brand: string, tagSetId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/tag-sets/{tag_set_id}", { params: { path: { brand, tag_set_id: tagSetId } } }),
  );

/** Delete a preset; posts that were to be tagged with it go out without. */
export const deleteLinkTags = (brand: string, presetId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/link-tags/{preset_id}", { params: { path: { brand, preset_id: presetId } } }));

/** Change an asset's name, alt text, caption, credit or labels. */
export const describeAsset = (brand: string, assetId: number, body: Schemas["DescribeIn"]) =>
  unwrap(api.PATCH("/api/brands/{brand}/assets/{asset_id}", { params: { path: { brand, asset_id: assetId } }, body }));

/** Everything that is kept to be said again. */
const fetchSayings = (brand: string) => unwrap(api.GET("/api/brands/{brand}/sayings", { params: { path: { brand } } }));

/** Add one file to the brand's media, in a folder of it; says how far it got. */
export const uploadAsset = (brand: string, file: File, progress: (part: number) => void, folder?: number) =>
  upload<Schemas["AssetOut"]>(
    `/api/brands/${brand}/assets`,
    file,
    progress,
    folder === undefined ? undefined : { folder: String(folder) },
  );

/** Add what is in a ZIP; says how far it got. */
export const uploadZip = (brand: string, file: File, progress: (part: number) => void) =>
  upload<Schemas["ImportedMediaOut"]>(`/api/brands/${brand}/zips`, file, progress);
