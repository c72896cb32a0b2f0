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
  validateSearch: (s: Search): { from?: string; show?: number; open?: number } => ({
    from: optional(s.from),
    show: number(s.show),
    open: number(s.open),
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
  validateSearch: (s: Search): { connected?: string; refused?: string } => ({
    connected: optional(s.connected),
    refused: optional(s.refused),
  }),
});

export const router = createRouter({
  routeTree: root.addChildren([home, brandRoute.addChildren([brandHome, calendarRoute, benchRoute, profilesRoute])]),
  defaultPreload: "intent",
});

declare module "@tanstack/react-router" {
  interface Register {
    router: typeof router;
  }
}
