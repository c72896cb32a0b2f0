import { Dialog, Portal } from "@chakra-ui/react";
import { type ReactNode, useRef } from "react";
import { Problem } from "@/api/client";
import { claimDrafts } from "@/features/posts/storedDrafts";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { useMe } from "./queries";
import { SignIn } from "./SignIn";

/** Its children, once someone is signed in. A session that ends meanwhile is renewed above them: nothing typed is lost. */
export function SignedIn({ children, said }: { children: ReactNode; said?: string }) {
  const me = useMe();
  const was = useRef<number | null>(null);
  const person = me.error ? undefined : me.data?.id;
  if (person !== undefined) {
    // Before anything below looks for what it left in this browser.
    if (was.current !== person) claimDrafts(person);
    // Somebody else signed in where one was signed out: what stands on this page was the other's.
    if (was.current !== null && was.current !== person) location.assign("/");
    was.current = person;
  }
  const signedOut = me.error instanceof Problem && me.error.status === 401;
  if (signedOut && was.current !== null)
    return (
      <>
        {children}
        <Dialog.Root open closeOnEscape={false} closeOnInteractOutside={false}>
          <Portal>
            <Dialog.Positioner>
              <Dialog.Content
                position="fixed"
                inset="0"
                zIndex="50"
                bg="paper/90"
                overflow="auto"
                aria-label="Sign in again"
              >
                <SignIn said="You were signed out. Sign in to go on where you were." />
              </Dialog.Content>
            </Dialog.Positioner>
          </Portal>
        </Dialog.Root>
      </>
    );
  if (signedOut) return <SignIn said={said} />;
  if (me.error) return <QueryFailed error={me.error} again={() => me.refetch()} />;
  if (!me.data) return <Loading />;
  return children;
}
