import { useQueryClient } from "@tanstack/react-query";
import { type ErrorComponentProps, useRouter } from "@tanstack/react-router";
import { Button } from "./Button";
import { EmptyState } from "./EmptyState";

/** In place of a page that broke: the rest of Menudo stands. */
export function PageFailed({ reset }: ErrorComponentProps) {
  const router = useRouter();
  const queries = useQueryClient();
  return (
    <div role="alert">
      <EmptyState
        page
        title="This page broke off"
        words="Nothing that was kept is lost, and a post that was being written is saved as when one leaves it. If it breaks off again, tell whoever manages the installation what you did."
      >
        <Button
          kind="main"
          onClick={() => {
            // What the page had read may be what broke it; what stands around it keeps its own.
            queries.removeQueries({ type: "inactive" });
            reset();
            void router.invalidate();
          }}
        >
          Try again
        </Button>
      </EmptyState>
    </div>
  );
}

/** In place of everything: what stands around the pages broke. */
export function ShellFailed() {
  return (
    <main role="alert">
      <EmptyState
        page
        title="Menudo broke off"
        words="Nothing that was kept is lost, and what is due goes out without this window. Load it again; if it breaks off again, tell whoever manages the installation."
      >
        <Button kind="main" onClick={() => window.location.assign("/")}>
          Load again
        </Button>
      </EmptyState>
    </main>
  );
}
