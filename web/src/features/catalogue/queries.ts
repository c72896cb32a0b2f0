import { useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { catalogueQueries } from "@/data/catalogue";
import { useAction } from "@/ui/useAction";

export type Catalogue = Schemas["CatalogueOut"];
export type CatalogueItem = Schemas["CatalogueItemOut"];
export type EventKind = Schemas["EventKind"];
export type Inspection = Schemas["InspectionOut"];

export const useCatalogues = (brand: string) => useQuery(catalogueQueries.list(brand));

export const useCatalogue = (brand: string, id: number | undefined, words: string) =>
  useQuery(catalogueQueries.one(brand, id, words));

export const useCatalogueAction = (brand: string) => useAction(brand, ["catalogue"]);
