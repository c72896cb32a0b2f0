import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { Problem } from "@/api/client";
import { useBrandContext } from "@/app/brandContext";
import { postQueries, restoreVersion } from "@/data/posts";
import { Button } from "@/ui/Button";
import { Loading } from "@/ui/Loading";
import { QueryFailed } from "@/ui/QueryFailed";
import { SidePanel } from "@/ui/SidePanel";
import { formatInstant } from "@/ui/times";
import { toast } from "@/ui/toasts";
import type { useBench } from "../useBench";

/** Everything that happened to a post, by whom; and the way back to how it was. */
export function HistoryPanel({
  bench,
  id,
  close,
}: {
  bench: ReturnType<typeof useBench>;
  id: number;
  close: () => void;
}) {
  const { brand, me, may } = useBrandContext();
  const found = useQuery(postQueries.history(brand.slug, id));
  async function back(entry: number) {
    try {
      const fresh = await bench.after((present) => restoreVersion(brand.slug, id, entry, present.revision));
      if (!fresh) return;
      bench.replace(fresh);
      toast("The post is as it was then. Its history keeps what it was before.");
      close();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      toast(error.message, { wrong: true });
    }
  }
  return (
    <SidePanel title="History" open close={close}>
      {found.error && <QueryFailed error={found.error} />}
      {found.isPending && <Loading />}
      <Box as="ol" listStyleType="none" m="0" p="0">
        {found.data?.map((entry, at) => (
          <Box as="li" key={entry.id} borderTopWidth="1px" borderColor="rule" py="8px">
            <Box color="faded" fontSize="12px">
              {formatInstant(entry.occurred_at, brand.zone, me.clock24)}
            </Box>
            <Box overflowWrap="anywhere">
              <b>{entry.actor}</b> {entry.summary}
            </Box>
            {entry.state && at > 0 && may("write") && (
              <Button
                kind="link"
                fontSize="12px"
                aria-label={`Go back to this: ${entry.summary}`}
                onClick={() => void back(entry.id)}
              >
                Go back to this
              </Button>
            )}
          </Box>
        ))}
      </Box>
    </SidePanel>
  );
}
