import { queryOptions } from "@tanstack/react-query";
import { api, ifMatch, type Schemas, unwrap } from "@/api/client";
import { brandKey } from "./keys";

export const sheetQueries = {
  sheet: (brand: string) => queryOptions({ queryKey: brandKey("sheet", brand), queryFn: () => fetchBrandSheet(brand) }),
};

/** Read the brand's own page: proposals to take or leave. */
export const readBrandPage = (brand: string, body: Schemas["PageIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/sheet/read", { params: { path: { brand } }, body }));

/** The brand sheet; its revision is the ETag. */
const fetchBrandSheet = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/sheet", { params: { path: { brand } } }));

/** Write the brand sheet (If-Match). */
export const saveBrandSheet = (brand: string, revision: number, body: Schemas["SheetIO"]) =>
  unwrap(api.PUT("/api/brands/{brand}/sheet", { params: { path: { brand } }, headers: ifMatch(revision), body }));
