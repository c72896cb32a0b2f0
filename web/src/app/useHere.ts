import { useRouter } from "@tanstack/react-router";
import { useCallback } from "react";

/** Where one is, or is on the way to while that page isn't there yet: its pathname, at the moment it is asked for. What comes back
 * late from the server leads on only who is still where they asked for it. */
export function useHere(): () => string {
  const { history } = useRouter();
  return useCallback(() => history.location.pathname, [history]);
}
