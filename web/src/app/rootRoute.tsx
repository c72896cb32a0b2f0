import { createRootRoute, Outlet } from "@tanstack/react-router";
import { ShellFailed } from "@/ui/Failed";
import { NotFound } from "@/ui/NotFound";

export const root = createRootRoute({
  component: Outlet,
  notFoundComponent: NotFound,
  errorComponent: ShellFailed,
});
