import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Form, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { multipart } from "@/api/multipart";
import { brandKey } from "./keys";

export const rotaQueries = {
  list: (brand: string) => queryOptions({ queryKey: brandKey("rotas", brand), queryFn: () => fetchRotas(brand) }),
  one: (brand: string, id: number) =>
    queryOptions({ queryKey: brandKey("rotas", brand, id), queryFn: () => fetchRota(brand, id) }),
  topPosts: (brand: string) =>
    queryOptions({ queryKey: brandKey("top-posts", brand), queryFn: () => fetchTopPosts(brand) }),
  quotations: (brand: string, words: string, subject: NonNullable<Query<"quotations">>["subject"] | "") =>
    queryOptions({
      queryKey: brandKey("quotations", brand, words, subject),
      queryFn: () => fetchQuotations(brand, { words, ...(subject ? { subject } : {}) }),
      placeholderData: keepPreviousData,
    }),
  /** What the rotas will carry out, of these days. */
  upcoming: (brand: string, first: string, days: number) =>
    queryOptions({
      queryKey: brandKey("upcoming", brand, first, days),
      queryFn: () => fetchUpcomingTurns(brand, { first, days }),
    }),
};

/** What the rotas will put into a window of the calendar that no post has been made of yet. */
const fetchUpcomingTurns = (brand: string, query: Query<"upcomingTurns">) =>
  unwrap(api.GET("/api/brands/{brand}/upcoming", { params: { path: { brand }, query } }));

/** Turns of drafts, of posts that were out, and of pictures. */
export const addTurns = (brand: string, rotaId: number, body: Schemas["TurnsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/rotas/{rota_id}/turns", { params: { path: { brand, rota_id: rotaId } }, body }));

/** A turn for each quotation, as text or as a picture; the rota goes out once a day at most from then on. */
export const addQuotations = (brand: string, rotaId: number, body: Schemas["QuotationsIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/rotas/{rota_id}/quotations", { params: { path: { brand, rota_id: rotaId } }, body }),
  );

/** A turn for each row of a CSV file: text (several are wordings), picture, link, times, until. All or none. */
export const addTable = (brand: string, rotaId: number, form: Form<"addTable">) =>
  unwrap(
    api.POST("/api/brands/{brand}/rotas/{rota_id}/table", {
      params: { path: { brand, rota_id: rotaId } },
      ...multipart(form),
    }),
  );

/** The brand's rotas, by name, and where each runs dry. */
const fetchRotas = (brand: string) => unwrap(api.GET("/api/brands/{brand}/rotas", { params: { path: { brand } } }));

/** A rota, its turns, and what its slots get in the coming eight weeks. */
const fetchRota = (brand: string, rotaId: number) =>
  unwrap(api.GET("/api/brands/{brand}/rotas/{rota_id}", { params: { path: { brand, rota_id: rotaId } } }));

/** The posts of the last year that did better than their profiles usually do, the best 30. */
const fetchTopPosts = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/top-posts", { params: { path: { brand } } }));

/** Quotations out of copyright, those near to the brand's topics first; 120 at most at once. */
const fetchQuotations = (brand: string, query: Query<"quotations">) =>
  unwrap(api.GET("/api/brands/{brand}/quotations", { params: { path: { brand }, query } }));

/** Change a rota. What was fixed or made stays; all else is laid out anew. */
export const updateRota = (brand: string, rotaId: number, revision: number, body: Schemas["RotaIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/rotas/{rota_id}", {
      params: { path: { brand, rota_id: rotaId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** A new rota, with a label of its name: slots that timetables keep for that label are the rota's. */
export const createRota = (brand: string, body: Schemas["RotaIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/rotas", { params: { path: { brand } }, body }));

/** Delete a rota: what it planned stays, its turns are drafts again. */
export const deleteRota = (brand: string, rotaId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/rotas/{rota_id}", { params: { path: { brand, rota_id: rotaId } } }));

/** Fix one coming slot, leave it empty, or let the rota say again. */
export const setPlacement = (brand: string, rotaId: number, body: Schemas["PlacementIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/rotas/{rota_id}/placements", { params: { path: { brand, rota_id: rotaId } }, body }),
  );

/** Two coming slots change what they get. */
export const swapPlacements = (brand: string, rotaId: number, body: Schemas["SwapPlacementsIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/rotas/{rota_id}/placements/swap", {
      params: { path: { brand, rota_id: rotaId } },
      body,
    }),
  );

/** The turns in another order. */
export const reorderTurns = (brand: string, rotaId: number, body: Schemas["OrderIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/rotas/{rota_id}/turns", { params: { path: { brand, rota_id: rotaId } }, body }));

/** A turn out of the rota: its wordings are drafts again. */
export const removeTurn = (brand: string, rotaId: number, turnId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/rotas/{rota_id}/turns/{turn_id}", {
      params: { path: { brand, rota_id: rotaId, turn_id: turnId } },
    }),
  );

/** How often a turn goes, until when, and in which seasons. */
export const updateTurn = (brand: string, rotaId: number, turnId: number, body: Schemas["TurnIn"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/rotas/{rota_id}/turns/{turn_id}", {
      params: { path: { brand, rota_id: rotaId, turn_id: turnId } },
      body,
    }),
  );

/** A wording out of its turn; with the last one goes the turn. */
export const removeTurnWording = (brand: string, rotaId: number, turnId: number, wordingId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/rotas/{rota_id}/turns/{turn_id}/wordings/{wording_id}", {
      params: { path: { brand, rota_id: rotaId, turn_id: turnId, wording_id: wordingId } },
    }),
  );

/** Another wording of a turn: a copy of its last one, or a draft. */
export const addTurnWording = (brand: string, rotaId: number, turnId: number, body: Schemas["TurnWordingIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/rotas/{rota_id}/turns/{turn_id}/wordings", {
      params: { path: { brand, rota_id: rotaId, turn_id: turnId } },
      body,
    }),
  );

/** Keep slots for the rota in the timetables of all its profiles, or give them back. */
export const saveRotaSlots = (brand: string, rotaId: number, body: Schemas["SlotsIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/rotas/{rota_id}/slots", { params: { path: { brand, rota_id: rotaId } }, body }));
