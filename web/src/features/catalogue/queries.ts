import { useQuery } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { useAction } from "@/ui/useAction";

export type Catalogue = Schemas["CatalogueOut"];
export type CatalogueItem = Schemas["CatalogueItemOut"];
export type EventKind = Schemas["EventKind"];
export type Inspection = Schemas["InspectionOut"];

export const useCatalogues = (brand: string) =>
  useQuery({
    queryKey: ["catalogues", brand],
    queryFn: () => unwrap(api.GET("/api/brands/{brand}/catalogues", { params: { path: { brand } } })),
  });

export const useCatalogue = (brand: string, id: number | undefined, words: string) =>
  useQuery({
    queryKey: ["catalogues", brand, id ?? 0, words],
    queryFn: () =>
      unwrap(
        api.GET("/api/brands/{brand}/catalogues/{catalogue_id}", {
          params: { path: { brand, catalogue_id: id ?? 0 }, query: { words } },
        }),
      ),
    enabled: id !== undefined,
    placeholderData: (before) => before,
  });

export const useCatalogueAction = (brand: string) => useAction(brand, ["catalogues", "relays"]);
