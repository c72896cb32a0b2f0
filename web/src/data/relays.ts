import { keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { brandKey } from "./keys";

export const relayQueries = {
  board: (brand: string) =>
    queryOptions({
      queryKey: brandKey("relays", brand, "board"),
      queryFn: () => fetchRelayBoard(brand),
      select: withStarts,
    }),
  questions: (brand: string) =>
    queryOptions({ queryKey: brandKey("relays", brand, "questions"), queryFn: () => fetchRelayQuestions(brand) }),
  startingPoints: (brand: string) =>
    queryOptions({ queryKey: brandKey("relays", brand, "starting-points"), queryFn: () => fetchStartingPoints(brand) }),
  log: (brand: string, relay: number | undefined, page: number) =>
    queryOptions({
      queryKey: brandKey("relays", brand, "log", relay ?? 0, page),
      queryFn: () => fetchRelayLog(brand, { relay, page }),
      placeholderData: keepPreviousData,
    }),
};

/** Each row with where its relays start. */
const withStarts = (board: Schemas["BoardOut"]) => ({
  ...board,
  rows: board.rows.map((row) => ({ ...row, ...(board.starts[row.start] as Schemas["BoardStart"]) })),
});

/** Change a relay; what it has carried stays. */
export const updateRelay = (brand: string, relayId: number, revision: number, body: Schemas["RelaySettings"]) =>
  unwrap(
    api.PUT("/api/brands/{brand}/relays/{relay_id}", {
      params: { path: { brand, relay_id: relayId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Fill a cell. It begins switched off, so that a sample can be looked at first. */
export const createRelay = (brand: string, body: Schemas["RelayCellIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/relays", { params: { path: { brand } }, body }));

/** On from now, or with the last few; or off. */
export const switchRelay = (brand: string, relayId: number, body: Schemas["SwitchIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/relays/{relay_id}/switch", { params: { path: { brand, relay_id: relayId } }, body }),
  );

/** Empty a cell; what it carried stays. */
export const deleteRelay = (brand: string, relayId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/relays/{relay_id}", { params: { path: { brand, relay_id: relayId } } }));

/** A draft of what a relay only told of. */
export const draftFiring = (brand: string, firingId: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/firings/{firing_id}/draft", { params: { path: { brand, firing_id: firingId } } }),
  );

/** The relay board: sources, relays, and what rings and doubles they make. */
const fetchRelayBoard = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/relays", { params: { path: { brand } } }));

/** What relays ask, the oldest first. */
const fetchRelayQuestions = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/relays/questions", { params: { path: { brand } } }));

/** Starting points that fill several cells, each said in full. */
const fetchStartingPoints = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/relays/starting-points", { params: { path: { brand } } }));

/** Every item that relays saw, whether it fired, and why not; the latest first. */
const fetchRelayLog = (brand: string, query: Query<"relayLog">) =>
  unwrap(api.GET("/api/brands/{brand}/relays/log", { params: { path: { brand }, query } }));

/** Yes: it goes out as the relay says. No: its draft goes to the bin. */
export const answerFiring = (brand: string, firingId: number, body: Schemas["RelayAnswerIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/firings/{firing_id}/answer", {
      params: { path: { brand, firing_id: firingId } },
      body,
    }),
  );

/** What a relay with these settings would make of the last ten items of its source. Nothing is kept. */
export const sampleRelay = (brand: string, body: Schemas["RelayCellIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/relays/sample", { params: { path: { brand } }, body }));

/** Fill several cells at once, all switched off; those filled already stay as they are. */
export const createFromStartingPoint = (brand: string, body: Schemas["StartIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/relays/starting-points", { params: { path: { brand } }, body }));
