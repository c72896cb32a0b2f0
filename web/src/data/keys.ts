/** What is read of a brand: what belongs to one family is made old together (`changes.ts`), whole or by a part. */
export type BrandFamily =
  | "almanac"
  | "assets"
  | "attendance"
  | "bin"
  | "calendar"
  | "campaigns"
  | "campaign-counts"
  | "catalogues"
  | "check"
  | "compare"
  | "connect-links"
  | "deliveries"
  | "feeds"
  | "first-steps"
  | "hashtags"
  | "history"
  | "labels"
  | "listings"
  | "networks"
  | "obstacles"
  | "pending-signoffs"
  | "people"
  | "posts"
  | "profile-counts"
  | "profiles"
  | "quotations"
  | "relays"
  | "rotas"
  | "sayings"
  | "sets"
  | "sheet"
  | "shelf"
  | "sign-links"
  | "sign-rules"
  | "signoffs"
  | "starters"
  | "stores"
  | "strip"
  | "subscriptions"
  | "talk"
  | "today"
  | "top-posts"
  | "tray"
  | "trouble"
  | "upcoming"
  | "views"
  | "wording";

/** What is read of a person or of the installation, or by who has a link. */
export type OwnFamily =
  | "access-link"
  | "addresses"
  | "all-brands"
  | "assigned"
  | "connect-outcome"
  | "emoji"
  | "factors"
  | "installation"
  | "invitation"
  | "link-page"
  | "me"
  | "notices"
  | "places"
  | "preferences"
  | "public-status"
  | "sent-mail"
  | "sessions"
  | "sign-page";

export type QueryKey = readonly [BrandFamily | OwnFamily, ...unknown[]];

/** The key of something of a brand; with nothing further, of the whole family. */
export const brandKey = (family: BrandFamily, brand: string, ...rest: unknown[]): QueryKey => [family, brand, ...rest];

/** The key of something that is no brand's. */
export const ownKey = (family: OwnFamily, ...rest: unknown[]): QueryKey => [family, ...rest];
