import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import { api, ifMatch, type Schemas, unwrap } from "@/api/client";
import { told } from "@/features/calendar/queries";
import type { RemarkTarget } from "@/features/talk/target";
import { toast } from "@/ui/toasts";

/** Where a post's sign-off stands, and what may be done about it. */
export function usePostSignoff(brand: string, id: number | null) {
  return useQuery({
    queryKey: ["signing", brand, id],
    queryFn: () =>
      unwrap(api.GET("/api/brands/{brand}/posts/{post_id}/signoff", { params: { path: { brand, post_id: id ?? 0 } } })),
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
export function useSignoffActions(brand: string) {
  const anew = useSignedAnew(brand);
  const path = (at: At) => ({ params: { path: { brand, post_id: at.id } }, headers: ifMatch(at.revision) });
  const wrong = { onError: (error: Error) => toast(told(error), { wrong: true }), onSettled: anew };
  const putUp = useMutation({
    mutationFn: (posts: At[]) =>
      unwrap(api.POST("/api/brands/{brand}/signoff-requests", { params: { path: { brand } }, body: { posts } })),
    onSuccess: (done: Schemas["AnsweredOut"]) => {
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      toast(done.done === 1 ? "It is up for sign-off." : `${done.done} posts are up for sign-off.`);
    },
    ...wrong,
  });
  const agree = useMutation({
    mutationFn: (at: At) => unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/approve", path(at))),
    onSuccess: (post) =>
      toast(
        post.state === "signed_off"
          ? "Signed off. What was held for it is planned."
          : "Agreed. It waits on others now.",
      ),
    ...wrong,
  });
  const sendBack = useMutation({
    mutationFn: ({ words, on, ...at }: At & { words: string; on: RemarkTarget }) =>
      unwrap(
        api.POST("/api/brands/{brand}/posts/{post_id}/send-back", {
          ...path(at),
          body: { words, ...on, deliveries: null },
        }),
      ),
    onSuccess: () => toast("Sent back, with what you said."),
    ...wrong,
  });
  const withdraw = useMutation({
    mutationFn: (at: At) => unwrap(api.POST("/api/brands/{brand}/posts/{post_id}/withdraw", path(at))),
    onSuccess: () => toast("It is a draft again. What is planned of it is held."),
    ...wrong,
  });
  return { putUp, agree, sendBack, withdraw };
}
