import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { brandKey } from "./keys";

export const labelQueries = {
  list: (brand: string) =>
    queryOptions({ queryKey: brandKey("labels", brand), queryFn: () => fetchLabels(brand), staleTime: 60_000 }),
};

/** The brand's labels, by name. */
const fetchLabels = (brand: string) => unwrap(api.GET("/api/brands/{brand}/labels", { params: { path: { brand } } }));

/** Rename a label, or give it another ink. */
export const updateLabel = (brand: string, labelId: number, body: Schemas["PostLabelIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/labels/{label_id}", { params: { path: { brand, label_id: labelId } }, body }));

/** A new label. */
export const createLabel = (brand: string, body: Schemas["PostLabelIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/labels", { params: { path: { brand } }, body }));

/** Delete a label; its posts stay. */
export const deleteLabel = (brand: string, labelId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/labels/{label_id}", { params: { path: { brand, label_id: labelId } } }));
