import { queryOptions } from "@tanstack/react-query";
import { api, type Schemas, unwrap } from "@/api/client";
import { ownKey } from "./keys";

export const installationQueries = {
  installation: () => queryOptions({ queryKey: ownKey("installation"), queryFn: fetchInstallation, staleTime: 0 }),
  /** What there is to know before one is in: whether mail goes out from here, and whether anybody has an account. */
  publicStatus: () =>
    queryOptions({ queryKey: ownKey("public-status"), queryFn: fetchPublicStatus, staleTime: 60_000 }),
  accessLink: (token: string) =>
    queryOptions({
      queryKey: ownKey("access-link", token),
      queryFn: () => fetchAccessLink(token),
      retry: false,
      // What was typed isn't to be swept away by looking again.
      staleTime: Number.POSITIVE_INFINITY,
    }),
};

/** How the installation stands. */
const fetchInstallation = () => unwrap(api.GET("/api/installation"));

/** A one-time address for a new person, who will make a brand of their own. */
export const issueAccessLink = (body: Schemas["AccessLinkIn"]) =>
  unwrap(api.POST("/api/installation/people", { body }));

/** Say by which server mail leaves. */
export const saveMailServer = (body: Schemas["MailServerIn"]) => unwrap(api.PUT("/api/installation/mail", { body }));

/** Send one mail to me by a server, without keeping it. */
export const sendTestMail = (body: Schemas["MailServerIn"]) => unwrap(api.POST("/api/installation/mail/try", { body }));

/** Go back to what the environment says of mail. */
export const deleteMailServer = () => unwrap(api.DELETE("/api/installation/mail"));

/** What a one-time address leads to. */
const fetchAccessLink = (token: string) => unwrap(api.GET("/api/set-up/{token}", { params: { path: { token } } }));

/** Make the account, or choose a new password; one is signed in then. */
export const redeemAccessLink = (token: string, body: Schemas["RedeemIn"]) =>
  unwrap(api.POST("/api/set-up/{token}", { params: { path: { token } }, body }));

/** What there is to know before one is in. */
const fetchPublicStatus = () => unwrap(api.GET("/api/public-status"));
