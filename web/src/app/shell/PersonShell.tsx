import { Box } from "@chakra-ui/react";
import { Outlet } from "@tanstack/react-router";
import { useMe } from "@/features/people/queries";
import { SignedIn } from "@/features/people/SignedIn";
import { Toasts } from "@/ui/Toasts";
import { MastFrame } from "./Masthead";

/** Pages of a person's that belong to no brand. */
export function PersonShell() {
  return (
    <SignedIn>
      <Frame />
      <Toasts />
    </SignedIn>
  );
}

function Frame() {
  const me = useMe().data;
  if (!me) return null;
  return (
    <>
      <MastFrame brand={null} me={me} home="/">
        <Box flex="1" />
      </MastFrame>
      <main>
        <Outlet />
      </main>
    </>
  );
}
