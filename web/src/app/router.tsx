import {
  createRoute,
  createRouter,
  lazyRouteComponent,
  parseSearchWith,
  stringifySearchWith,
} from "@tanstack/react-router";
import {
  calendarSearch,
  flag,
  librarySearch,
  listed,
  narrowedSearch,
  number,
  optional,
  type Search,
} from "@/app/address";
import { Home } from "@/app/Home";
import { publicRoutes } from "@/app/publicRoutes";
import { root } from "@/app/rootRoute";
import { BrandShell } from "@/app/shell/BrandShell";
import type { Filters } from "@/features/calendar/filters";
import type { HistorySearch } from "@/features/history/HistoryPage";
import { PageFailed, ShellFailed } from "@/ui/Failed";

const home = createRoute({
  getParentRoute: () => root,
  path: "/",
  component: Home,
  validateSearch: (s: Search): { connect?: boolean; outcome?: string } => ({
    connect: s.connect === true || undefined,
    outcome: optional(s.outcome),
  }),
});
export const brandRoute = createRoute({
  getParentRoute: () => root,
  path: "/$brand",
  component: BrandShell,
  errorComponent: ShellFailed,
});
export const calendarRoute = createRoute({
  getParentRoute: () => brandRoute,
  path: "/calendar",
  component: lazyRouteComponent(() => import("@/features/calendar/CalendarPage"), "CalendarPage"),
  validateSearch: calendarSearch,
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
  validateSearch: (s: Search): { connected?: string; outcome?: string; by?: "network" | "set" } => ({
    connected: listed(s.connected),
    outcome: optional(s.outcome),
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

const relays = createRoute({
  getParentRoute: () => brandRoute,
  path: "/relays",
  component: lazyRouteComponent(() => import("@/features/relays/RelaysPage"), "RelaysPage"),
  validateSearch: (s: Search): { open?: number } => ({ open: number(s.open) }),
});
const asked = createRoute({
  getParentRoute: () => brandRoute,
  path: "/relays/asked",
  component: lazyRouteComponent(() => import("@/features/relays/QuestionsPage"), "QuestionsPage"),
  validateSearch: (s: Search): { leg?: number } => ({ leg: number(s.leg) }),
});
const relayLog = createRoute({
  getParentRoute: () => brandRoute,
  path: "/relays/log",
  component: lazyRouteComponent(() => import("@/features/relays/LogPage"), "LogPage"),
  validateSearch: (s: Search): { relay?: number } => ({ relay: number(s.relay) }),
});
const feeds = createRoute({
  getParentRoute: () => brandRoute,
  path: "/relays/feeds",
  component: lazyRouteComponent(() => import("@/features/feeds/FeedsPage"), "FeedsPage"),
});
const shelf = createRoute({
  getParentRoute: () => brandRoute,
  path: "/relays/shelf",
  component: lazyRouteComponent(() => import("@/features/feeds/ShelfPage"), "ShelfPage"),
  validateSearch: (s: Search): { words?: string; feed?: number; tag?: string } => ({
    words: listed(s.words),
    feed: number(s.feed),
    tag: listed(s.tag),
  }),
});
const catalogue = createRoute({
  getParentRoute: () => brandRoute,
  path: "/relays/catalogue",
  component: lazyRouteComponent(() => import("@/features/catalogue/CataloguePage"), "CataloguePage"),
  validateSearch: (s: Search): { catalogue?: number } => ({ catalogue: number(s.catalogue) }),
});

const library = createRoute({
  getParentRoute: () => brandRoute,
  path: "/library",
  component: lazyRouteComponent(() => import("@/features/library/LibraryPage"), "LibraryPage"),
  validateSearch: librarySearch,
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
    words: listed(s.words),
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
const gridProof = createRoute({
  getParentRoute: () => brandRoute,
  path: "/grid/$profile",
  component: lazyRouteComponent(() => import("@/features/calendar/GridPage"), "GridPage"),
});
const printed = createRoute({
  getParentRoute: () => brandRoute,
  path: "/plan",
  component: lazyRouteComponent(() => import("@/features/calendar/PrintPage"), "PrintPage"),
  validateSearch: (s: Search): Filters & { from?: string; days?: number } => ({
    from: optional(s.from),
    days: number(s.days),
    ...narrowedSearch(s),
  }),
});

const everywhere = createRoute({
  getParentRoute: () => root,
  path: "/all",
  component: lazyRouteComponent(() => import("@/features/calendar/AllBrandsPage"), "AllBrandsPage"),
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
  component: lazyRouteComponent(() => import("@/features/assigned/AssignedPage"), "AssignedPage"),
});
const newBrand = createRoute({
  getParentRoute: () => person,
  path: "/new-brand",
  component: lazyRouteComponent(() => import("@/features/brandsheet/BrandBasics"), "NewBrandPage"),
});
const installation = createRoute({
  getParentRoute: () => person,
  path: "/installation",
  component: lazyRouteComponent(() => import("@/features/installation/InstallationPage"), "InstallationPage"),
});
export const firstStepsRoute = createRoute({
  getParentRoute: () => brandRoute,
  path: "/first-steps",
  component: lazyRouteComponent(() => import("@/features/installation/FirstStepsPage"), "FirstStepsPage"),
  validateSearch: (s: Search): { step?: string; connected?: string; outcome?: string } => ({
    step: optional(s.step),
    connected: listed(s.connected),
    outcome: optional(s.outcome),
  }),
});

export const router = createRouter({
  routeTree: root.addChildren([
    home,
    everywhere,
    person.addChildren([account, newBrand, waiting, installation]),
    ...publicRoutes,
    brandRoute.addChildren([
      rotas,
      rota,
      relays,
      asked,
      relayLog,
      feeds,
      shelf,
      catalogue,
      brandHome,
      today,
      calendarRoute,
      benchRoute,
      profilesRoute,
      firstStepsRoute,
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
  defaultErrorComponent: PageFailed,
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
