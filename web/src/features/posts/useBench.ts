import { useQueryClient } from "@tanstack/react-query";
import { useCallback, useEffect, useRef, useState } from "react";
import type { Post } from "@/api/client";
import { useChanged } from "@/data/changes";
import { createPost, postQueries, updatePost } from "@/data/posts";
import { toast } from "@/ui/toasts";
import { clearDraft, type Draft, storeDraft, storedDraft } from "./draft";
import { SaveQueue } from "./saving/SaveQueue";

/** The state of one Bench: the draft, and saving it, which happens by itself. */
export function useBench(brand: string, loaded: Post | null, first: Draft, onMade: (id: number) => void) {
  const queries = useQueryClient();
  const changed = useChanged(brand);
  const made = useRef(onMade);
  made.current = onMade;
  const [queue] = useState(
    () =>
      new SaveQueue(loaded, first, storedDraft(brand, loaded?.id ?? null), {
        create: (body) => createPost(brand, body),
        update: (post, body) => updatePost(brand, post.id, post.revision, body),
        store: (id, draft) => storeDraft(brand, id, draft),
        clear: (id) => clearDraft(brand, id),
        onSaved: (post, led) => {
          queries.setQueryData(postQueries.post(brand, post.id).queryKey, post);
          void changed("post-saved");
          if (led) made.current(post.id);
        },
        onProblem: (problem) => {
          if (problem.status === 401) void changed("account");
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
      queries.setQueryData(postQueries.post(brand, fresh.id).queryKey, fresh);
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
