import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { ownKey } from "./keys";

export const noticeQueries = {
  list: () => queryOptions({ queryKey: ownKey("notices"), queryFn: fetchNotices, refetchInterval: 60_000 }),
  preferences: () => queryOptions({ queryKey: ownKey("preferences"), queryFn: fetchNotificationPreferences }),
  /** What a demo's mail server has been given. */
  sentMail: () => queryOptions({ queryKey: ownKey("sent-mail"), queryFn: fetchSentMail, refetchInterval: 3000 }),
};

/** What I was told, newest first. */
const fetchNotices = () => unwrap(api.GET("/api/notices"));

/** Mark my notices up to this one as read. */
export const readNotices = (body: Schemas["ReadUpToIn"]) => unwrap(api.POST("/api/notices/read", { body }));

/** How I am told outside the product. */
const fetchNotificationPreferences = () => unwrap(api.GET("/api/notices/preferences"));

/** Say how I wish to be told. */
export const saveNotificationPreferences = (body: Schemas["PreferencesIn"]) =>
  unwrap(api.PUT("/api/notices/preferences", { body }));

/** Mail the demo would have sent, newest first. There is none outside the demo. */
const fetchSentMail = () => unwrap(api.GET("/api/mail-tray"));
