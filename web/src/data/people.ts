import { infiniteQueryOptions, keepPreviousData, queryOptions } from "@tanstack/react-query";
import { api, type Query, type Schemas, unwrap } from "@/api/client";
import { brandKey, ownKey } from "./keys";

export const peopleQueries = {
  me: () => queryOptions({ queryKey: ownKey("me"), queryFn: fetchMe, staleTime: 60_000 }),
  list: (brand: string) => queryOptions({ queryKey: brandKey("people", brand), queryFn: () => fetchPeople(brand) }),
  invitation: (token: string) =>
    queryOptions({ queryKey: ownKey("invitation", token), queryFn: () => fetchInvitation(token), retry: false }),
  history: (brand: string, search: Omit<NonNullable<Query<"history">>, "before">) =>
    infiniteQueryOptions({
      queryKey: brandKey("history", brand, search),
      queryFn: ({ pageParam }) => fetchHistory(brand, { ...search, before: pageParam }),
      initialPageParam: undefined as number | undefined,
      getNextPageParam: (last) => last.more ?? undefined,
      placeholderData: keepPreviousData,
    }),
};

/** Change my name, or how times are written for me. */
export const updateMe = (body: Schemas["MeIn"]) => unwrap(api.PATCH("/api/me", { body }));

/** Change a brand's name, zone and ink. */
export const updateBrand = (brand: string, body: Schemas["BrandIn"]) =>
  unwrap(api.PATCH("/api/brands/{brand}", { params: { path: { brand } }, body }));

/** Make a brand; its maker is its coordinator. */
export const createBrand = (body: Schemas["BrandIn"]) => unwrap(api.POST("/api/brands", { body }));

/** Who did what when, newest first, a hundred at a time. */
const fetchHistory = (brand: string, query: Query<"history">) =>
  unwrap(api.GET("/api/brands/{brand}/history", { params: { path: { brand }, query } }));

/** What an invitation is to. */
const fetchInvitation = (token: string) => unwrap(api.GET("/api/invitations/{token}", { params: { path: { token } } }));

/** Join the brand, as the person who is signed in or as a new one, who is then signed in. */
export const acceptInvitation = (token: string, body: Schemas["AcceptIn"]) =>
  unwrap(api.POST("/api/invitations/{token}/accept", { params: { path: { token } }, body }));

/** Invite a person by e-mail. */
export const invite = (brand: string, body: Schemas["InviteIn"]) =>
  unwrap(api.POST("/api/brands/{brand}/invitations", { params: { path: { brand } }, body }));

/** Set what a person may do in the brand. */
export const updateMember = (brand: string, userId: number, body: Schemas["MemberIn"]) =>
  unwrap(api.PUT("/api/brands/{brand}/people/{user_id}", { params: { path: { brand, user_id: userId } }, body }));

/** Take a person out of the brand. */
export const removeMember = (brand: string, userId: number) =>
  unwrap(api.DELETE("/api/brands/{brand}/people/{user_id}", { params: { path: { brand, user_id: userId } } }));

/** Take an invitation back. */
export const withdrawInvitation = (brand: string, invitationId: number) =>
  unwrap(
    api.DELETE("/api/brands/{brand}/invitations/{invitation_id}", {
      params: { path: { brand, invitation_id: invitationId } },
    }),
  );

/** The signed-in person and their brands. */
const fetchMe = () => unwrap(api.GET("/api/me"));

/** Who belongs to the brand, and, for those who manage people, who is invited. */
const fetchPeople = (brand: string) => unwrap(api.GET("/api/brands/{brand}/people", { params: { path: { brand } } }));

/** The address of a second factor (otpauth:) as a picture to scan, SVG. */
export const totpPicture = (body: Schemas["TotpIn"]) => unwrap(api.POST("/api/me/totp-picture", { body }));
