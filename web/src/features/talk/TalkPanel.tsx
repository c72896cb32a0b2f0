import { Box } from "@chakra-ui/react";
import { useMutation, useQuery, useQueryClient } from "@tanstack/react-query";
import type { Network } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { talkQueries, watchPost } from "@/data/talk";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { SidePanel } from "@/ui/SidePanel";
import { toast } from "@/ui/toasts";
import { NewRemark } from "./NewRemark";
import { OneRemark } from "./OneRemark";
import { Tasks } from "./Tasks";
import type { Version } from "./target";

type Props = { id: number; networks: Map<string, Network>; versions: Version[]; at?: number; close: () => void };

/** What is said at a post, who was asked to see to it, and who is told of it. */
export function TalkPanel({ id, networks, versions, at, close }: Props) {
  const { brand } = useBrandContext();
  const queries = useQueryClient();
  const talk = useTalk(brand.slug, id);
  const watch = useMutation({
    mutationFn: (on: boolean) => watchPost(brand.slug, id, { on }),
    onSuccess: (now) => {
      queries.setQueryData(talkQueries.post(brand.slug, id).queryKey, now);
      toast(now.watching ? "You are told of what happens to this post." : "You are told of it no more.");
    },
  });
  return (
    <SidePanel title="Talk" open close={close}>
      {talk.error && <QueryFailed error={talk.error} />}
      {talk.isPending && <Loading />}
      {talk.data && (
        <Box display="grid" gap="16px">
          <Tasks id={id} talk={talk.data} />
          <Box as="section" aria-label="Remarks">
            <Box as="h3" fontSize="15px" mb="6px">
              Remarks
            </Box>
            {talk.data.remarks.length === 0 && (
              <Box color="faded" mb="8px">
                Nothing is said yet. @ and a person’s whole name tells them.
              </Box>
            )}
            {talk.data.remarks.map((remark) => (
              <OneRemark key={remark.id} post={id} remark={remark} networks={networks} lit={remark.id === at} />
            ))}
            <NewRemark id={id} people={talk.data.people} versions={versions} />
          </Box>
          <Box as="section" aria-label="Watching" borderTopWidth="1px" borderColor="rule" pt="10px">
            <Button disabled={watch.isPending} onClick={() => watch.mutate(!talk.data.watching)}>
              {talk.data.watching ? "Don’t watch it" : "Watch it"}
            </Button>
            <Box color="faded" fontSize="12px" mt="6px">
              {talk.data.watchers.length === 0
                ? "Nobody watches; its author is told of what is said and signed."
                : `Watched by ${talk.data.watchers.join(", ")}.`}
            </Box>
          </Box>
        </Box>
      )}
    </SidePanel>
  );
}

export function useTalk(brand: string, id: number | null) {
  return useQuery(talkQueries.post(brand, id));
}
