import { useQuery } from "@tanstack/react-query";
import { api, got, type Schemas } from "@/api/client";
import { useDeed } from "@/ui/useDeed";

export type Catalogue = Schemas["CatalogueOut"];
export type Thing = Schemas["ThingOut"];
export type Happened = Schemas["Happened"];
export type Looked = Schemas["LookedAtOut"];

export const useCatalogues = (brand: string) =>
  useQuery({
    queryKey: ["catalogues", brand],
    queryFn: () => got(api.GET("/api/brands/{brand}/catalogues", { params: { path: { brand } } })),
  });

export const useCatalogue = (brand: string, id: number | undefined, words: string) =>
  useQuery({
    queryKey: ["catalogues", brand, id ?? 0, words],
    queryFn: () =>
      got(
        api.GET("/api/brands/{brand}/catalogues/{id}", {
          params: { path: { brand, id: id ?? 0 }, query: { words } },
        }),
      ),
    enabled: id !== undefined,
    placeholderData: (before) => before,
  });

export const useCatalogueDeed = (brand: string) => useDeed(brand, ["catalogues", "relays"]);
