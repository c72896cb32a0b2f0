import {
  createRootRoute,
  createRoute,
  createRouter,
  lazyRouteComponent,
  Outlet,
  parseSearchWith,
  stringifySearchWith,
} from "@tanstack/react-router";
import { Home } from "@/app/Home";
import { BrandShell } from "@/app/shell/BrandShell";
import { NARROWS, type Narrowed } from "@/features/calendar/filter";
import type { HistorySearch } from "@/features/history/HistoryPage";
import { NotHere } from "@/ui/NotHere";

type Search = Record<string, unknown>;
type LibrarySearch = {
  shelf?: (typeof SHELVES)[number];
  words?: string;
  folder?: number;
  label?: string;
  kind?: "picture" | "animation" | "video";
  used?: boolean;
  binned?: boolean;
  list?: boolean;
  fill?: boolean;
};
const VIEWS = ["lanes", "month", "week", "list"] as const;
const PANELS = ["advice", "labels", "campaigns", "almanac", "addresses", "plan"] as const;
const SORTS = ["time", "profile", "state"] as const;
export type CalendarSearch = Narrowed & {
  from?: string;
  show?: number;
  open?: number;
  view?: (typeof VIEWS)[number];
  panel?: (typeof PANELS)[number];
  sort?: (typeof SORTS)[number];
  by?: "set";
  lay?: string;
};
/** One id alone is read from the address as a number. */
const listed = (value: unknown) => optional(typeof value === "number" ? String(value) : value);
function narrowed(s: Search): Narrowed {
  return Object.fromEntries(NARROWS.map((name) => [name, listed(s[name])]).filter(([, value]) => value));
}
const SHELVES = ["media", "snippets", "tag-sets", "link-tags", "bin"] as const;
const optional = (value: unknown) => (typeof value === "string" && value ? value : undefined);
const number = (value: unknown) => (Number.isInteger(Number(value)) && Number(value) > 0 ? Number(value) : undefined);

const root = createRootRoute({ component: Outlet, notFoundComponent: NotHere });
const home = createRoute({
  getParentRoute: () => root,
  path: "/",
  component: Home,
  validateSearch: (s: Search): { said?: string; refused?: string } => ({
    said: optional(s.said),
    refused: optional(s.refused),
  }),
});
export const brandRoute = createRoute({ getParentRoute: () => root, path: "/$brand", component: BrandShell });
export const calendarRoute = createRoute({
  getParentRoute: () => brandRoute,
  path: "/calendar",
  component: lazyRouteComponent(() => import("@/features/calendar/CalendarPage"), "CalendarPage"),
  validateSearch: (s: Search): CalendarSearch => ({
    from: optional(s.from),
    show: number(s.show),
    open: number(s.open),
    view: VIEWS.find((one) => one === s.view),
    panel: PANELS.find((one) => one === s.panel),
    sort: SORTS.find((one) => one === s.sort),
    by: s.by === "set" ? "set" : undefined,
    lay: listed(s.lay),
    ...narrowed(s),
  }),
});
const brandHome = createRoute({
  getParentRoute: () => brandRoute,
  path: "/",
  component: lazyRouteComponent(() => import("@/app/Home"), "ToCalendar"),
});
export const benchRoute = createRoute({
  getParentRoute: () => brandRoute,
  path: "/bench/$post",
  component: lazyRouteComponent(() => import("@/features/posts/BenchPage"), "BenchPage"),
  validateSearch: (s: Search): { date?: string; time?: string; profile?: number; text?: string; part?: string } => ({
    date: optional(s.date),
    time: optional(s.time),
    text: optional(s.text),
    profile: number(s.profile),
    part: optional(s.part),
  }),
});
export const profilesRoute = createRoute({
  getParentRoute: () => brandRoute,
  path: "/profiles",
  component: lazyRouteComponent(() => import("@/features/profiles/ProfilesPage"), "ProfilesPage"),
  validateSearch: (s: Search): { connected?: string; refused?: string; by?: "network" | "set" } => ({
    connected: optional(typeof s.connected === "number" ? String(s.connected) : s.connected),
    refused: optional(s.refused),
    by: s.by === "set" ? "set" : undefined,
  }),
});
const byHand = createRoute({
  getParentRoute: () => brandRoute,
  path: "/by-hand/$delivery",
  component: lazyRouteComponent(() => import("@/features/profiles/ByHandPage"), "ByHandPage"),
});
const people = createRoute({
  getParentRoute: () => brandRoute,
  path: "/people",
  component: lazyRouteComponent(() => import("@/features/people/PeoplePage"), "PeoplePage"),
});
const sheet = createRoute({
  getParentRoute: () => brandRoute,
  path: "/sheet",
  component: lazyRouteComponent(() => import("@/features/brandsheet/BrandSheetPage"), "BrandSheetPage"),
});
const today = createRoute({
  getParentRoute: () => brandRoute,
  path: "/today",
  component: lazyRouteComponent(() => import("@/features/today/TodayPage"), "TodayPage"),
});

const rotas = createRoute({
  getParentRoute: () => brandRoute,
  path: "/rotas",
  component: lazyRouteComponent(() => import("@/features/rotas/RotasPage"), "RotasPage"),
});
const rota = createRoute({
  getParentRoute: () => brandRoute,
  path: "/rotas/$rota",
  component: lazyRouteComponent(() => import("@/features/rotas/RotaPage"), "RotaPage"),
});

const flag = (value: unknown) => (value === true || value === "true" ? true : undefined);
const whether = (value: unknown) =>
  value === true || value === "true" ? true : value === false || value === "false" ? false : undefined;
const library = createRoute({
  getParentRoute: () => brandRoute,
  path: "/library",
  component: lazyRouteComponent(() => import("@/features/library/LibraryPage"), "LibraryPage"),
  validateSearch: (s: Search): LibrarySearch => ({
    shelf: SHELVES.find((one) => one === s.shelf),
    words: optional(typeof s.words === "number" ? String(s.words) : s.words),
    folder: Number(s.folder) === 0 && s.folder !== undefined ? 0 : number(s.folder),
    label: optional(typeof s.label === "number" ? String(s.label) : s.label),
    kind: (["picture", "animation", "video"] as const).find((one) => one === s.kind),
    used: whether(s.used),
    binned: flag(s.binned),
    list: flag(s.list),
    fill: flag(s.fill),
  }),
});

const trouble = createRoute({
  getParentRoute: () => brandRoute,
  path: "/trouble",
  component: lazyRouteComponent(() => import("@/features/trouble/TroublePage"), "TroublePage"),
  validateSearch: (s: Search): { profile?: number; days?: number } => ({
    profile: number(s.profile),
    days: number(s.days),
  }),
});
const DEEDS = ["written", "planned", "signed", "sent", "failed"] as const;
const history = createRoute({
  getParentRoute: () => brandRoute,
  path: "/history",
  component: lazyRouteComponent(() => import("@/features/history/HistoryPage"), "HistoryPage"),
  validateSearch: (s: Search): HistorySearch => ({
    who: s.who === 0 || s.who === "0" ? 0 : number(s.who),
    what: DEEDS.find((one) => one === s.what),
    words: optional(typeof s.words === "number" ? String(s.words) : s.words),
    first: optional(s.first),
    last: optional(s.last),
  }),
});
const ofPost = (s: Search): { post?: number } => ({ post: number(s.post) });
const sign = createRoute({
  getParentRoute: () => brandRoute,
  path: "/sign",
  component: lazyRouteComponent(() => import("@/features/signoff/SignPage"), "SignPage"),
  validateSearch: (s: Search): { post?: number; everyone?: true } => ({ ...ofPost(s), everyone: flag(s.everyone) }),
});
const signRules = createRoute({
  getParentRoute: () => brandRoute,
  path: "/sign-rules",
  component: lazyRouteComponent(() => import("@/features/signoff/RulesPage"), "RulesPage"),
});
const signLink = createRoute({
  getParentRoute: () => root,
  path: "/sign/$token",
  component: lazyRouteComponent(() => import("@/features/signoff/LinkSignPage"), "LinkSignPage"),
  validateSearch: ofPost,
});
const gridProof = createRoute({
  getParentRoute: () => brandRoute,
  path: "/grid/$profile",
  component: lazyRouteComponent(() => import("@/features/calendar/GridPage"), "GridPage"),
});
const printed = createRoute({
  getParentRoute: () => brandRoute,
  path: "/plan",
  component: lazyRouteComponent(() => import("@/features/calendar/PrintPage"), "PrintPage"),
  validateSearch: (s: Search): Narrowed & { from?: string; days?: number } => ({
    from: optional(s.from),
    days: number(s.days),
    ...narrowed(s),
  }),
});

const everywhere = createRoute({
  getParentRoute: () => root,
  path: "/all",
  component: lazyRouteComponent(() => import("@/features/calendar/EverywherePage"), "EverywherePage"),
  validateSearch: (s: Search): { from?: string } => ({ from: optional(s.from) }),
});
const person = createRoute({
  getParentRoute: () => root,
  id: "person",
  component: lazyRouteComponent(() => import("@/app/shell/PersonShell"), "PersonShell"),
});
const account = createRoute({
  getParentRoute: () => person,
  path: "/account",
  component: lazyRouteComponent(() => import("@/features/people/AccountPage"), "AccountPage"),
});
const waiting = createRoute({
  getParentRoute: () => person,
  path: "/waiting",
  component: lazyRouteComponent(() => import("@/features/waiting/WaitingPage"), "WaitingPage"),
});
const newBrand = createRoute({
  getParentRoute: () => person,
  path: "/new-brand",
  component: lazyRouteComponent(() => import("@/features/brandsheet/BrandBasics"), "NewBrandPage"),
});
const mailTray = createRoute({
  getParentRoute: () => root,
  path: "/mail-tray",
  component: lazyRouteComponent(() => import("@/features/people/MailTrayPage"), "MailTrayPage"),
});
const reset = createRoute({
  getParentRoute: () => root,
  path: "/reset",
  component: lazyRouteComponent(() => import("@/features/people/ResetPages"), "ResetPage"),
});
const newPassword = createRoute({
  getParentRoute: () => root,
  path: "/reset/$key",
  component: lazyRouteComponent(() => import("@/features/people/ResetPages"), "NewPasswordPage"),
});
const invitation = createRoute({
  getParentRoute: () => root,
  path: "/invitation/$token",
  component: lazyRouteComponent(() => import("@/features/people/InvitationPage"), "InvitationPage"),
});
const link = createRoute({
  getParentRoute: () => root,
  path: "/link/$token",
  component: lazyRouteComponent(() => import("@/features/links/LinkPage"), "LinkPage"),
  validateSearch: (s: Search): { connected?: string; refused?: string; left?: string } => ({
    connected: optional(typeof s.connected === "number" ? String(s.connected) : s.connected),
    refused: optional(s.refused),
    left: optional(s.left),
  }),
});

export const router = createRouter({
  routeTree: root.addChildren([
    home,
    everywhere,
    person.addChildren([account, newBrand, waiting]),
    mailTray,
    reset,
    newPassword,
    invitation,
    link,
    signLink,
    brandRoute.addChildren([
      rotas,
      rota,
      brandHome,
      today,
      calendarRoute,
      benchRoute,
      profilesRoute,
      byHand,
      people,
      sheet,
      library,
      sign,
      signRules,
      trouble,
      history,
      gridProof,
      printed,
    ]),
  ]),
  defaultPreload: "intent",
  // Values as they are: one id alone stands in the address as any other list of them does.
  parseSearch: parseSearchWith((value) => value),
  stringifySearch: stringifySearchWith(JSON.stringify),
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
