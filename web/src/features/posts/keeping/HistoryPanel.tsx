import { Box } from "@chakra-ui/react";
import { useQuery } from "@tanstack/react-query";
import { api, got, ifMatch, Problem } from "@/api/client";
import { useHere } from "@/app/shell/BrandShell";
import { Button } from "@/ui/Button";
import { Failed } from "@/ui/Failed";
import { Loading } from "@/ui/Loading";
import { say } from "@/ui/notices";
import { SidePanel } from "@/ui/SidePanel";
import { instantWords } from "@/ui/times";
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
  const { brand, me, may } = useHere();
  const path = { brand: brand.slug, id };
  const found = useQuery({
    queryKey: ["post", brand.slug, id, "history"],
    queryFn: () => got(api.GET("/api/brands/{brand}/posts/{id}/history", { params: { path } })),
    gcTime: 0,
  });
  async function back(entry: number) {
    try {
      const fresh = await bench.after((present) =>
        got(
          api.POST("/api/brands/{brand}/posts/{id}/back-to/{entry}", {
            params: { path: { ...path, entry } },
            headers: ifMatch(present.revision),
          }),
        ),
      );
      if (!fresh) return;
      bench.replace(fresh);
      say("The post is as it was then. Its history keeps what it was before.");
      close();
    } catch (error) {
      if (!(error instanceof Problem)) throw error;
      say(error.message, { wrong: true });
    }
  }
  return (
    <SidePanel title="History" open close={close}>
      {found.error && <Failed error={found.error} />}
      {found.isPending && <Loading />}
      <Box as="ol" listStyleType="none" m="0" p="0">
        {found.data?.map((entry, at) => (
          <Box as="li" key={entry.id} borderTopWidth="1px" borderColor="rule" py="8px">
            <Box color="faded" fontSize="12px">
              {instantWords(entry.at, brand.zone, me.clock24)}
            </Box>
            <Box overflowWrap="anywhere">
              <b>{entry.who}</b> {entry.words}
            </Box>
            {entry.state && at > 0 && may("write") && (
              <Button
                kind="link"
                fontSize="12px"
                aria-label={`Go back to this: ${entry.words}`}
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
