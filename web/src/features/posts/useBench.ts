import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import { api, ifMatch, type Post, unwrap } from "@/api/client";
import { toast } from "@/ui/toasts";
import { clearDraft, type Draft, storeDraft, storedDraft } from "./draft";
import { SaveQueue } from "./saving/SaveQueue";

/** The state of one Bench: the draft, and saving it, which happens by itself. */
export function useBench(brand: string, loaded: Post | null, first: Draft, onMade: (id: number) => void) {
  const queries = useQueryClient();
  const made = useRef(onMade);
  made.current = onMade;
  const [queue] = useState(
    () =>
      new SaveQueue(loaded, first, storedDraft(brand, loaded?.id ?? null), {
        create: (body) => unwrap<Post>(api.POST("/api/brands/{brand}/posts", { params: { path: { brand } }, body })),
        update: (post, body) =>
          unwrap<Post>(
            api.PUT("/api/brands/{brand}/posts/{post_id}", {
              params: { path: { brand, post_id: post.id } },
              headers: ifMatch(post.revision),
              body,
            }),
          ),
        store: (id, draft) => storeDraft(brand, id, draft),
        clear: (id) => clearDraft(brand, id),
        onSaved: (post, led) => {
          queries.setQueryData(["post", brand, post.id], post);
          void queries.invalidateQueries({ queryKey: ["calendar", brand] });
          if (led) made.current(post.id);
        },
        onProblem: (problem) => {
          if (problem.status === 401) void queries.invalidateQueries({ queryKey: ["me"] });
        },
      }),
  );
  // Not useSyncExternalStore: it draws at once, whereas a key typed in a cell is shown there first, and the Bench after it.
  const [{ draft, saved, problem, clash, id }, show] = useState(queue.snapshot);
  useEffect(() => {
    show(queue.snapshot());
    return queue.subscribe(() => show(queue.snapshot()));
  }, [queue]);

  useEffect(() => {
    queue.enter();
    return queue.leave;
  }, [queue]);

  const settle = useCallback(
    (mine: boolean) => {
      queue.settle(mine);
      toast(mine ? "Yours is kept over theirs. Theirs is in the post's history." : "Taken over as it stands.");
    },
    [queue],
  );
  const replace = useCallback(
    (fresh: Post) => {
      queue.replace(fresh);
      queries.setQueryData(["post", brand, fresh.id], fresh);
    },
    [queue, queries, brand],
  );

  return {
    draft,
    now: queue.draft,
    change: queue.change,
    replace,
    saved,
    problem,
    clash,
    settle,
    write: queue.flush,
    after: queue.after,
    adopt: queue.adopt,
    id,
  };
}
