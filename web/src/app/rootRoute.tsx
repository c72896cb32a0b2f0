import { createRootRoute, Outlet } from "@tanstack/react-router";
import { NotHere } from "@/ui/NotHere";

export const root = createRootRoute({ component: Outlet, notFoundComponent: NotHere });
