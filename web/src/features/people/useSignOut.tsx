import { type ReactNode, useState } from "react";
import { signOut } from "@/data/account";
import { countStoredDrafts, forgetDrafts } from "@/features/posts/storedDrafts";
import { Confirm } from "@/ui/Confirm";

/** Sign out, and leave nothing behind: asks first where drafts of this browser couldn't be saved. `question` stands on the page. */
export function useSignOut(away: () => void): { leave: () => Promise<void>; question: ReactNode } {
  const [unsaved, setUnsaved] = useState(0);
  async function go() {
    forgetDrafts();
    await signOut();
    away();
  }
  async function leave() {
    const count = countStoredDrafts();
    if (count) setUnsaved(count);
    else await go();
  }
  const question = (
    <Confirm
      title="Sign out all the same?"
      open={unsaved > 0}
      leave="Stay"
      go={unsaved === 1 ? "Sign out and lose it" : "Sign out and lose them"}
      close={() => setUnsaved(0)}
      act={go}
    >
      {unsaved === 1 ? "One post" : `${unsaved} posts`} could not be saved yet, and {unsaved === 1 ? "is" : "are"} only
      in this browser. Open {unsaved === 1 ? "it" : "them"} on the Bench to save {unsaved === 1 ? "it" : "them"}.
    </Confirm>
  );
  return { leave, question };
}
