import { createRootRoute, Outlet } from "@tanstack/react-router";
import { NotFound } from "@/ui/NotFound";

export const root = createRootRoute({ component: Outlet, notFoundComponent: NotFound });
