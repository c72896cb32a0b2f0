import { Box } from "@chakra-ui/react";
import { Outlet } from "@tanstack/react-router";
import { useMe } from "@/features/people/queries";
import { SignedIn } from "@/features/people/SignedIn";
import { Notices } from "@/ui/Notices";
import { MastFrame } from "./Masthead";

/** Pages of a person's that belong to no brand. */
export function PersonShell() {
  return (
    <SignedIn>
      <Frame />
      <Notices />
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
