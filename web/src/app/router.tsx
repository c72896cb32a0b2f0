import { createRootRoute, createRoute, createRouter, lazyRouteComponent, Outlet } from "@tanstack/react-router";
import { Home } from "@/app/Home";
import { BrandShell } from "@/app/shell/BrandShell";
import { NotHere } from "@/ui/NotHere";

type Search = Record<string, unknown>;
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
  validateSearch: (s: Search): { from?: string; show?: number; open?: number; sets?: string } => ({
    from: optional(s.from),
    show: number(s.show),
    open: number(s.open),
    // One set's id is read from the address as a number.
    sets: optional(typeof s.sets === "number" ? String(s.sets) : s.sets),
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
  validateSearch: (s: Search): { date?: string; profile?: number } => ({
    date: optional(s.date),
    profile: number(s.profile),
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
    person.addChildren([account, newBrand]),
    mailTray,
    reset,
    newPassword,
    invitation,
    link,
    brandRoute.addChildren([brandHome, today, calendarRoute, benchRoute, profilesRoute, byHand, people, sheet]),
  ]),
  defaultPreload: "intent",
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
