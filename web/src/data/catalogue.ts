import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Form, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { multipart } from "@/api/multipart";
import { brandKey } from "./keys";

export const catalogueQueries = {
  list: (brand: string) =>
    queryOptions({ queryKey: brandKey("catalogues", brand), queryFn: () => fetchCatalogues(brand) }),
  one: (brand: string, id: number | undefined, words: string) =>
    queryOptions({
      queryKey: brandKey("catalogues", brand, id ?? 0, words),
      queryFn: () => fetchCatalogue(brand, id ?? 0, { words }),
      enabled: id !== undefined,
      placeholderData: keepPreviousData,
    }),
};

/** The same for a file. */
export const inspectCatalogueFile = (brand: string, form: Form<"inspectCatalogueFile">) =>
  unwrap(api.POST("/api/brands/{brand}/catalogues/inspect/file", { params: { path: { brand } }, ...multipart(form) }));

/** What an address has: its columns, which is which as it is guessed or said, and rows as they would be understood. */
export const inspectCatalogue = (brand: string, body: Schemas["InspectIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/catalogues/inspect", { params: { path: { brand } }, body }));

/** Its name, address, columns, own events, and how often it is read. */
export const updateCatalogue = (brand: string, catalogueId: number, revision: number, body: Schemas["CatalogueIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/catalogues/{catalogue_id}", {
      params: { path: { brand, catalogue_id: catalogueId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** A catalogue that is brought as files, from its first. */
export const createCatalogueFromFile = (brand: string, form: Form<"createCatalogueFromFile">) =>
  unwrap(api.POST("/api/brands/{brand}/catalogues/file", { params: { path: { brand } }, ...multipart(form) }));

/** A catalogue at an address. What stands in it now is where it begins: nothing has happened yet. */
export const createCatalogue = (brand: string, body: Schemas["CatalogueIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/catalogues", { params: { path: { brand } }, body }));

/** Delete a catalogue with its things and relays; what was posted stays. */
export const deleteCatalogue = (brand: string, catalogueId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/catalogues/{catalogue_id}", {
      params: { path: { brand, catalogue_id: catalogueId } },
    }),
  );

/** Another file of a catalogue: what is different from the last has happened. */
export const importCatalogueFile = (brand: string, catalogueId: number, form: Form<"importCatalogueFile">) =>
  unwrap(
    api.POST("/api/brands/{brand}/catalogues/{catalogue_id}/file", {
      params: { path: { brand, catalogue_id: catalogueId } },
      ...multipart(form),
    }),
  );

/** Read a catalogue at its address now. */
export const pollCatalogue = (brand: string, catalogueId: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/catalogues/{catalogue_id}/read", {
      params: { path: { brand, catalogue_id: catalogueId } },
    }),
  );

/** Say by hand what happened to a thing. */
export const createCatalogueEvent = (brand: string, itemId: number, body: Schemas["CatalogueEventIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/items/{item_id}/events", { params: { path: { brand, item_id: itemId } }, body }),
  );

/** The brand's catalogues, by name. */
const fetchCatalogues = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/catalogues", { params: { path: { brand } } }));

/** A catalogue with its things and what happened lately. */
const fetchCatalogue = (brand: string, catalogueId: number, query: Query<"catalogue">) =>
  unwrap(
    api.GET("/api/brands/{brand}/catalogues/{catalogue_id}", {
      params: { path: { brand, catalogue_id: catalogueId }, query },
    }),
  );
