import { useMutation, useQuery } from "@tanstack/react-query";
import type { Schemas } from "@/api/client";
import { useChanged } from "@/data/changes";
import { approvePost, requestSignoff, sendBack, signoffQueries, withdrawSignoffRequest } from "@/data/signoff";
import { told } from "@/features/calendar/queries";
import type { RemarkTarget } from "@/features/talk/target";
import { toast } from "@/ui/toasts";

/** Where a post's sign-off stands, and what may be done about it. */
export function usePostSignoff(brand: string, id: number | null) {
  return useQuery(signoffQueries.post(brand, id));
}

type At = { id: number; revision: number };

/** Put up, agree, send back, take back; each says what came of it. */
export function useSignoffActions(brand: string) {
  const changed = useChanged(brand);
  const wrong = {
    onError: (error: Error) => toast(told(error), { wrong: true }),
    onSettled: () => changed("post", "delivery"),
  };
  const putUp = useMutation({
    mutationFn: (posts: At[]) => requestSignoff(brand, { posts }),
    onSuccess: (done: Schemas["AnsweredOut"]) => {
      for (const left of done.left.slice(0, 3)) toast(left.reason, { wrong: true });
      toast(done.done === 1 ? "It is up for sign-off." : `${done.done} posts are up for sign-off.`);
    },
    ...wrong,
  });
  const agree = useMutation({
    mutationFn: ({ id, revision }: At) => approvePost(brand, id, revision, null),
    onSuccess: (post) =>
      toast(
        post.state === "signed_off"
          ? "Signed off. What was held for it is planned."
          : "Agreed. It waits on others now.",
      ),
    ...wrong,
  });
  const sendBackPost = useMutation({
    mutationFn: ({ words, on, id, revision }: At & { words: string; on: RemarkTarget }) =>
      sendBack(brand, id, revision, { words, ...on, deliveries: null }),
    onSuccess: () => toast("Sent back, with what you said."),
    ...wrong,
  });
  const withdraw = useMutation({
    mutationFn: ({ id, revision }: At) => withdrawSignoffRequest(brand, id, revision),
    onSuccess: () => toast("It is a draft again. What is planned of it is held."),
    ...wrong,
  });
  return { putUp, agree, sendBack: sendBackPost, withdraw };
}
