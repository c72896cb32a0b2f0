import { queryOptions } from "@tanstack/react-query";
import { api, type Network, type Schemas, unwrap } from "@/api/client";
import { brandKey, ownKey } from "./keys";

const byName = (found: Network[]) => new Map(found.map((network) => [network.network, network]));

export const profileQueries = {
  list: (brand: string) => queryOptions({ queryKey: brandKey("profiles", brand), queryFn: () => fetchProfiles(brand) }),
  /** The same, with what is planned and in trouble kept up with what becomes of each delivery. */
  counts: (brand: string) =>
    queryOptions({ queryKey: brandKey("profile-counts", brand), queryFn: () => fetchProfiles(brand) }),
  /** When one profile posts: its slots, and what it wishes of its spacing. */
  timetable: (brand: string, profileId: number) =>
    queryOptions({
      queryKey: brandKey("profiles", brand, "timetable", profileId),
      queryFn: () => fetchTimetable(brand, profileId),
      // Who opens it anew changes what stands now, not what stood when it was last looked at.
      gcTime: 0,
    }),
  sets: (brand: string) =>
    queryOptions({ queryKey: brandKey("sets", brand), queryFn: () => fetchProfileSets(brand), staleTime: 60_000 }),
  /** Every network the brand can plan for, by its name in the API. */
  networks: (brand: string) =>
    queryOptions({
      queryKey: brandKey("networks", brand),
      queryFn: () => fetchNetworks(brand),
      staleTime: 600_000,
      select: byName,
    }),
  /** What came of a trip to a network, kept in this browser's session. */
  connectOutcome: (outcome: string) =>
    queryOptions({
      queryKey: ownKey("connect-outcome", outcome),
      queryFn: () => fetchConnectOutcome(outcome),
      staleTime: Number.POSITIVE_INFINITY,
      retry: false,
    }),
  connectLinks: (brand: string) =>
    queryOptions({ queryKey: brandKey("connect-links", brand), queryFn: () => fetchConnectLinks(brand) }),
};

/** Add a profile that a person publishes to. Its id. */
export const createManualProfile = (brand: string, body: Schemas["ByHandIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/profiles/by-hand", { params: { path: { brand } }, body }));

const fetchConnectOutcome = (outcome: string) =>
  unwrap(api.GET("/api/connect-outcomes/{outcome}", { params: { path: { outcome } } }));

const fetchTimetable = (brand: string, profileId: number) =>
  unwrap(
    api.GET("/api/brands/{brand}/profiles/{profile_id}/timetable", {
      params: { path: { brand, profile_id: profileId } },
    }),
  );

/** The links that ask clients to connect their own profiles. */
const fetchConnectLinks = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/links", { params: { path: { brand } } }));

/** Take a link back; what was connected by it stays. */
export const revokeLink = (brand: string, linkId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/links/{link_id}", { params: { path: { brand, link_id: linkId } } }));

/** Make a client's link. Its address is told this once. */
export const createConnectLink = (brand: string, body: Schemas["LinkIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/links", { params: { path: { brand } }, body }));

/** Begin connecting; send the person to the address given. */
export const connect = (brand: string, body: Schemas["StartConnectionIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/connections", { params: { path: { brand } }, body }));

/** Give other profiles the same slots. How many. */
export const copyTimetable = (brand: string, profileId: number, body: Schemas["CopyIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/profiles/{profile_id}/timetable/copy", {
      params: { path: { brand, profile_id: profileId } },
      body,
    }),
  );

/** Set what the team calls a profile, its zone, and who is in charge of it. */
export const describeProfile = (brand: string, profileId: number, body: Schemas["ProfileIn"]) =>
  unwrap(
    api.PATCH("/api/brands/{brand}/profiles/{profile_id}", {
      params: { path: { brand, profile_id: profileId } },
      body,
    }),
  );

/** Every network that has a rule sheet: those that ship, and the brand's own. */
const fetchNetworks = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/networks", { params: { path: { brand } } }));

/** Every profile of the brand, with what is planned for it and what is in trouble. */
const fetchProfiles = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/profiles", { params: { path: { brand } } }));

/** The brand's profile sets. */
const fetchProfileSets = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/sets", { params: { path: { brand } } }));

/** Rename a set or change its members. Posts planned already stay as they are. */
export const updateSet = (brand: string, setId: number, body: Schemas["SetIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/sets/{set_id}", { params: { path: { brand, set_id: setId } }, body }));

/** Make a profile set. */
export const createSet = (brand: string, body: Schemas["SetIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/sets", { params: { path: { brand } }, body }));

/** Delete a set; its profiles stay. */
export const deleteSet = (brand: string, setId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/sets/{set_id}", { params: { path: { brand, set_id: setId } } }));

/** Load a rule sheet of one's own (TOML). Faults point to lines: /toml/line/12. */
export const loadSheet = (brand: string, body: Schemas["RuleSheetIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/sheets", { params: { path: { brand } }, body }));

/** What a profile wishes of its spacing, and its waking hours. */
export const saveSpacing = (brand: string, profileId: number, body: Schemas["SpacingIO"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/profiles/{profile_id}/spacing", {
      params: { path: { brand, profile_id: profileId } },
      body,
    }),
  );

/** Replace a profile's weekly slots. */
export const setTimetable = (brand: string, profileId: number, body: Schemas["TimetableIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/profiles/{profile_id}/timetable", {
      params: { path: { brand, profile_id: profileId } },
      body,
    }),
  );
