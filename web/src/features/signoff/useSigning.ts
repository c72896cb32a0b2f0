import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, got, ifMatch, type Schemas } from "@/api/client";
import { told } from "@/features/calendar/queries";
import type { On } from "@/features/talk/on";
import { say } from "@/ui/notices";

/** Where a post's sign-off stands, and what may be done about it. */
export function useSigning(brand: string, id: number | null) {
  return useQuery({
    queryKey: ["signing", brand, id],
    queryFn: () => got(api.GET("/api/brands/{brand}/posts/{id}/signing", { params: { path: { brand, id: id ?? 0 } } })),
    enabled: id !== null,
  });
}

/** Everything that a change of sign-off makes old. */
function useSignedAnew(brand: string) {
  const queries = useQueryClient();
  return () =>
    Promise.all([
      ...["signing", "post", "calendar", "strip", "today", "talk"].map((key) =>
        queries.invalidateQueries({ queryKey: [key, brand] }),
      ),
      queries.invalidateQueries({ queryKey: ["waiting"] }),
    ]);
}

type At = { id: number; revision: number };

/** Put up, agree, send back, take back; each says what came of it. */
export function useSignDeeds(brand: string) {
  const anew = useSignedAnew(brand);
  const path = (at: At) => ({ params: { path: { brand, id: at.id } }, headers: ifMatch(at.revision) });
  const wrong = { onError: (error: Error) => say(told(error), { wrong: true }), onSettled: anew };
  const putUp = useMutation({
    mutationFn: (posts: At[]) =>
      got(api.POST("/api/brands/{brand}/put-up", { params: { path: { brand } }, body: { posts } })),
    onSuccess: (done: Schemas["AnsweredOut"]) => {
      for (const left of done.left.slice(0, 3)) say(left.words, { wrong: true });
      say(done.done === 1 ? "It is up for sign-off." : `${done.done} posts are up for sign-off.`);
    },
    ...wrong,
  });
  const agree = useMutation({
    mutationFn: (at: At) => got(api.POST("/api/brands/{brand}/posts/{id}/agree", path(at))),
    onSuccess: (post) =>
      say(
        post.state === "signed_off"
          ? "Signed off. What was held for it is planned."
          : "Agreed. It waits on others now.",
      ),
    ...wrong,
  });
  const sendBack = useMutation({
    mutationFn: ({ words, on, ...at }: At & { words: string; on: On }) =>
      got(
        api.POST("/api/brands/{brand}/posts/{id}/send-back", {
          ...path(at),
          body: { words, ...on, deliveries: null },
        }),
      ),
    onSuccess: () => say("Sent back, with what you said."),
    ...wrong,
  });
  const withdraw = useMutation({
    mutationFn: (at: At) => got(api.POST("/api/brands/{brand}/posts/{id}/withdraw", path(at))),
    onSuccess: () => say("It is a draft again. What is planned of it is held."),
    ...wrong,
  });
  return { putUp, agree, sendBack, withdraw };
}
