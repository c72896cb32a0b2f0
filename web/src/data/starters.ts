import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { brandKey } from "./keys";

export const starterQueries = {
  list: (brand: string) => queryOptions({ queryKey: brandKey("starters", brand), queryFn: () => fetchStarters(brand) }),
};

/** The starters that wait, the newest first. */
const fetchStarters = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/starters", { params: { path: { brand } } }));

/** Fill the supply up, and a few more when it is full. */
export const moreStarters = (brand: string) =>
  unwrap(api.POST("/api/brands/{brand}/starters/more", { params: { path: { brand } } }));

/** It becomes a draft of one's own. */
export const keepStarter = (brand: string, starterId: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/starters/{starter_id}/keep", { params: { path: { brand, starter_id: starterId } } }),
  );

/** It goes, with a reason that changes what comes. */
export const discardStarter = (brand: string, starterId: number, body: Schemas["DiscardedIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/starters/{starter_id}/discard", {
      params: { path: { brand, starter_id: starterId } },
      body,
    }),
  );
