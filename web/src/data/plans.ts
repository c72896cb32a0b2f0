import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Form, type Schemas, unwrap } from "@/api/client";
import { multipart } from "@/api/multipart";
import { brandKey } from "@/data/keys";

export const planQueries = {
  /** What would come of a batch. */
  batch: (brand: string, body: Schemas["BatchIn"]) =>
    queryOptions({
      queryKey: brandKey("calendar", brand, "batch", body),
      queryFn: () => previewBatch(brand, body),
      placeholderData: keepPreviousData,
      retry: false,
    }),
};

/** Plan many posts and pictures, each at its own time, in one step with one undo. */
export const scheduleBatch = (brand: string, body: Schemas["BatchScheduleIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/batches", { params: { path: { brand } }, body }));

/** Every date that would come of laying out, with clashes, days and findings. Nothing is changed. */
const previewBatch = (brand: string, body: Schemas["BatchIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/batches/preview", { params: { path: { brand } }, body }));

/** Read a plan (CSV) and say what each row would be, with every fault by row and column. Nothing is changed. */
export const inspectPlan = (brand: string, form: Form<"inspectPlan">) =>
  unwrap(api.POST("/api/brands/{brand}/plans/read", { params: { path: { brand } }, ...multipart(form) }));

/** Bring in the lines of a file that were chosen. */
export const importPlan = (brand: string, form: Form<"importPlan">) =>
  unwrap(api.POST("/api/brands/{brand}/plans", { params: { path: { brand } }, ...multipart(form) }));
