import { queryOptions } from "@tanstack/react-query";
import { api, ifMatch, type Query, type Schemas, unwrap } from "@/api/client";
import { brandKey, ownKey } from "./keys";

export const signoffQueries = {
  post: (brand: string, id: number | null) =>
    queryOptions({
      queryKey: brandKey("signoffs", brand, id),
      queryFn: () => fetchPostSignoff(brand, id ?? 0),
      enabled: id !== null,
    }),
  /** What waits for me, or for everyone. */
  pending: (brand: string, everyone: boolean) =>
    queryOptions({
      queryKey: brandKey("pending-signoffs", brand, everyone),
      queryFn: () => fetchPendingSignoffs(brand, { everyone }),
    }),
  rules: (brand: string) =>
    queryOptions({ queryKey: brandKey("sign-rules", brand), queryFn: () => fetchSignRules(brand) }),
  links: (brand: string) =>
    queryOptions({ queryKey: brandKey("sign-links", brand), queryFn: () => fetchSignLinks(brand) }),
  /** What who has the link is shown. */
  byLink: (token: string) =>
    queryOptions({
      queryKey: ownKey("sign-page", token),
      queryFn: () => fetchSignPage(token),
      retry: false,
      refetchInterval: 60_000,
    }),
};

/** Every post that waits on the client, as followers will see it. */
const fetchSignPage = (token: string) => unwrap(api.GET("/api/sign/{token}", { params: { path: { token } } }));

/** Agree to a post in its revision, or with a small change where the link allows it. What still waits. */
export const approveByLink = (token: string, postId: number, body: Schemas["LinkApproveIn"]) =>
  unwrap(api.POST("/api/sign/{token}/posts/{post_id}/approve", { params: { path: { token, post_id: postId } }, body }));

/** Agree to many posts at once. */
export const approveAllByLink = (token: string, body: Schemas["LinkApproveAllIn"]) =>
  unwrap(api.POST("/api/sign/{token}/approve", { params: { path: { token } }, body }));

/** Ask for a change, and say which. */
export const sendBackByLink = (token: string, postId: number, body: Schemas["LinkSendBackIn"]) =>
  unwrap(
    api.POST("/api/sign/{token}/posts/{post_id}/send-back", { params: { path: { token, post_id: postId } }, body }),
  );

/** Say something at a post without sending it back. */
export const remarkByLink = (token: string, postId: number, body: Schemas["LinkRemarkIn"]) =>
  unwrap(api.POST("/api/sign/{token}/posts/{post_id}/remarks", { params: { path: { token, post_id: postId } }, body }));

/** The brand's rules of sign-off, and who can be named in them. */
const fetchSignRules = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/sign-rules", { params: { path: { brand } } }));

/** What keeping these rules would do to what is planned. Nothing is kept. */
export const previewSignRules = (brand: string, body: Schemas["RulesIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/sign-rules/preview", { params: { path: { brand } }, body }));

/** Keep the rules. What is open is looked at again at once. */
export const saveSignRules = (brand: string, body: Schemas["RulesIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/sign-rules", { params: { path: { brand } }, body }));

/** The links with which clients sign off. */
const fetchSignLinks = (brand: string) =>
  unwrap(api.GET("/api/brands/{brand}/sign-links", { params: { path: { brand } } }));

/** Take a client's link back. */
export const revokeSignLink = (brand: string, linkId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/sign-links/{link_id}", { params: { path: { brand, link_id: linkId } } }));

/** Make a client's link. Its address is told this once. */
export const createSignLink = (brand: string, body: Schemas["SignLinkIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/sign-links", { params: { path: { brand } }, body }));

/** Everything that waits on me to sign off, with its proofs; `everyone`: on others too. */
const fetchPendingSignoffs = (brand: string, query: Query<"pendingSignoffs">) =>
  unwrap(api.GET("/api/brands/{brand}/signoffs", { params: { path: { brand }, query } }));

/** Agree to a post as it stands, or with a small change of its texts (If-Match). */
export const approvePost = (brand: string, postId: number, revision: number, body: Schemas["ApproveIn"] | null) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/approve", {
      params: { path: { brand, post_id: postId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Agree to many posts as they stand, a whole week for instance. */
export const approveAll = (brand: string, body: Schemas["PostsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/approve", { params: { path: { brand } }, body }));

/** Ask for a change, and say which (If-Match). */
export const sendBack = (brand: string, postId: number, revision: number, body: Schemas["SendBackIn"]) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/send-back", {
      params: { path: { brand, post_id: postId } },
      headers: ifMatch(revision),
      body,
    }),
  );

/** Where a post's sign-off stands: who is asked, who agreed, what has changed since. */
const fetchPostSignoff = (brand: string, postId: number) =>
  unwrap(api.GET("/api/brands/{brand}/posts/{post_id}/signoff", { params: { path: { brand, post_id: postId } } }));

/** Put posts up for sign-off, one or many. */
export const requestSignoff = (brand: string, body: Schemas["PostsIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/signoff-requests", { params: { path: { brand } }, body }));

/** Take back that it was put up for sign-off. */
export const withdrawSignoffRequest = (brand: string, postId: number, revision: number) =>
  unwrap(
    api.POST("/api/brands/{brand}/posts/{post_id}/withdraw", {
      params: { path: { brand, post_id: postId } },
      headers: ifMatch(revision),
    }),
  );
