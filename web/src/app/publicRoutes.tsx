import { createRoute, lazyRouteComponent } from "@tanstack/react-router";
import { listed, number, optional, type Search } from "@/app/address";
import { root } from "@/app/rootRoute";

const signLink = createRoute({
  getParentRoute: () => root,
  path: "/sign/$token",
  component: lazyRouteComponent(() => import("@/features/signoff/LinkSignPage"), "LinkSignPage"),
  validateSearch: (s: Search): { post?: number } => ({ post: number(s.post) }),
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
const confirmEmail = createRoute({
  getParentRoute: () => root,
  path: "/confirm-email/$key",
  component: lazyRouteComponent(() => import("@/features/people/ConfirmPage"), "ConfirmPage"),
});
const setUp = createRoute({
  getParentRoute: () => root,
  path: "/set-up/$token",
  component: lazyRouteComponent(() => import("@/features/installation/SetUpPage"), "SetUpPage"),
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
  validateSearch: (s: Search): { connected?: string; outcome?: string } => ({
    connected: listed(s.connected),
    outcome: optional(s.outcome),
  }),
});

/** Pages that one reaches without being signed in. */
export const publicRoutes = [mailTray, reset, newPassword, confirmEmail, setUp, invitation, link, signLink] as const;
